<script setup lang="ts">
import { computed, provide, ref, toRef, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useCommands } from '@/commands/registry'
import Divider from './Divider.vue'
import { sheetCommands } from './commands'
import { dialogOf, drawerOf, NAMED } from './drawers'
import Ruler from './Ruler.vue'
import SelectionBar from './SelectionBar.vue'
import SheetBar from './SheetBar.vue'
import SheetHead from './SheetHead.vue'
import SheetRows from './SheetRows.vue'
import SheetStage from './SheetStage.vue'
import WholeClip from './WholeClip.vue'
import { PLAYER } from '@/player/key'
import { ASK } from './kinds/asked'
import { useSheetPage } from './useSheetPage'
import { useStageSize } from './useStageSize'

/** The page of a clip: its picture, its words with all that is laid over them, and what lies over the lanes beside them. */
const props = defineProps<{ id: string }>()
const page = useSheetPage(toRef(props, 'id'))
provide(PLAYER, page.player)
provide(ASK, page.ask)
const { sheet, doc, choices, first, sources, player, peaks, chosen, drawer, laying, moving, large } = page
useCommands(() => sheetCommands(page))
/** What the address asks for: an edition, and what stands beside the rows. */
const route = useRoute()
watch([() => doc.value?.id, () => route.query], async ([there]) => {
  if (there !== props.id) return
  const edition = doc.value!.editions.find((each) => each.id === route.query.edition)?.id
  if (edition && edition !== doc.value!.edition) await sheet.show(edition)
  const wanted = NAMED.find((each) => each === route.query.panel)
  if (wanted && drawer.value !== wanted) page.openDrawer(wanted)
}, { immediate: true })

const rows = useTemplateRef<InstanceType<typeof SheetRows>>('rows')
watch(rows, (there) => (page.rows.value = there), { flush: 'post' })
const frame = ref<HTMLElement | null>(null)
const shape = computed(() => (doc.value ? doc.value.plan.width / doc.value.plan.height : 9 / 16))
const { place, resize } = useStageSize(frame, shape)
const DRAWER = 340 // pixels, as the styles below have it
const OpenDrawer = () => drawerOf(page)
const OpenDialog = () => dialogOf(page)
</script>

<template>
  <SheetHead :page="page" />
  <p v-if="first.error.value" class="lost" role="alert">
    {{ first.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-else class="sheet">
    <div ref="frame" class="upper" :class="[place.where, { large }]" :style="{ '--stage': `${place.size}px` }">
      <div class="left"><SheetStage :page="page" /></div>
      <Divider :size="place.size" label="Size of the stage" :upright="place.where === 'side'" @resize="resize" />
      <div class="middle">
        <SheetBar :page="page" />
        <div class="work">
          <WholeClip :page="page" />
          <SheetRows
            v-if="doc && choices" ref="rows" :doc="doc" :beats="page.beats.value" :commented="page.commented.value" :time="player.time.value" :placing="moving.held.value !== null" :playing="player.playing.value" :peaks="peaks" :choices="choices"
            :layer="drawer === 'layer' ? laying.layer.value : null" :covered="drawer ? DRAWER : 0" @go="player.show" @place="moving.put([$event])" @selected="chosen = $event" @rewrite="page.rewrite"
            @correct="sheet.correct" @drop="moving.drop" @layer="laying.openLayer" @reach="laying.reach" @remove-piece="sheet.edit([{ type: 'remove_piece', piece: $event }])"
          >
            <SelectionBar :page="page" />
          </SheetRows>
          <p v-else class="lost quiet" role="status">Reading the clip…</p>
          <OpenDrawer class="right" />
        </div>
      </div>
    </div>
    <Ruler v-if="doc && sources.length" class="bottom" :doc="doc" :time="player.time.value" :beats="page.beats.value" @seek="player.seek" />
    <OpenDialog />
  </div>
</template>

<style scoped>
.sheet { display: flex; flex-direction: column; height: 100%; overflow: hidden; }
.upper { position: relative; display: grid; flex: 1; min-height: 0; }
.upper.side { grid-template: minmax(0, 1fr) / var(--stage) auto minmax(0, 1fr); }
.upper.top { grid-template: var(--stage) auto minmax(0, 1fr) / minmax(0, 1fr); }
.left { display: flex; flex-direction: column; gap: 8px; min-width: 0; min-height: 0; padding: 12px 16px 8px; overflow: hidden; }
.middle { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.work { position: relative; display: flex; flex: 1; flex-direction: column; min-height: 0; }
.work > .around { flex: 1; min-height: 0; }
/* It lies over the lanes: what stands beside them does not move when it opens. */
.right { position: absolute; top: 0; right: 0; bottom: 0; z-index: 10; width: min(340px, 100%); border-left: 1px solid var(--rule); background: var(--paper); }
.top .work { position: static; }
.top .right { z-index: 15; }
.lost { padding: 60px; text-align: center; }
.large .left { position: absolute; inset: 0; z-index: 40; background: var(--ink); color: var(--paper); }
/* On the dark page. */
.large .left :deep(.play) { background: var(--paper); color: var(--ink); }
.large .left :deep(.quiet), .large .left :deep(.el-button) { color: #c9cdd5; }
@media (width < 900px) {
  .left { padding: 8px 8px 4px; }
  .top .work { position: relative; }
}
@media (height < 500px) {
  .bottom { display: none; } /* the transport leads to every place, too */
}
</style>
