<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { ref, toRef, useTemplateRef, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import { sheetCommands } from './commands'
import { dialogOf, drawerOf } from './drawers'
import Ruler from './Ruler.vue'
import SheetBar from './SheetBar.vue'
import SheetHead from './SheetHead.vue'
import SheetRows from './SheetRows.vue'
import SheetStage from './SheetStage.vue'
import { useSheetPage } from './useSheetPage'

/** The page of a clip: its picture, its words with all that is laid over them, and what stands beside them. */
const props = defineProps<{ id: string }>()
const page = useSheetPage(toRef(props, 'id'))
const { sheet, doc, choices, first, sources, player, peaks, chosen, drawer, laying, moving } = page
useCommands(() => sheetCommands(page))

const rows = useTemplateRef<InstanceType<typeof SheetRows>>('rows')
watch(rows, (there) => (page.rows.value = there), { flush: 'post' })
const narrow = useMediaQuery('(width < 900px)')
const picturing = ref(false) // where there is no room for it beside the rows, the stage is a drawer
const OpenDrawer = () => drawerOf(page)
const OpenDialog = () => dialogOf(page)
</script>

<template>
  <SheetHead v-model:picturing="picturing" :page="page" :narrow="narrow" />
  <p v-if="first.error.value" class="lost" role="alert">
    {{ first.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-else class="sheet">
    <div v-if="narrow && picturing" class="drawer-shade" @click="picturing = false"></div>
    <div class="left" :class="{ drawer: narrow, open: picturing }"><SheetStage :page="page" /></div>
    <div class="middle">
      <SheetBar :page="page" />
      <SheetRows
        v-if="doc && choices" ref="rows" :doc="doc" :time="player.time.value" :placing="moving.held.value !== null" :playing="player.playing.value" :peaks="peaks" :choices="choices"
        :layer="drawer === 'layer' ? laying.layer.value : null" @go="player.show" @place="moving.put([$event])" @selected="chosen = $event" @rewrite="page.rewrite"
        @correct="sheet.correct" @drop="moving.drop" @layer="laying.openLayer" @reach="laying.reach" @remove-piece="sheet.edit([{ type: 'remove_piece', piece: $event }])"
      />
      <p v-else class="lost quiet" role="status">Reading the clip…</p>
    </div>
    <OpenDrawer class="right" />
    <Ruler v-if="doc && sources.length" class="bottom" :doc="doc" :time="player.time.value" @seek="player.seek" />
    <OpenDialog />
  </div>
</template>

<style scoped>
.sheet { position: relative; display: grid; grid-template: minmax(0, 1fr) auto / 290px minmax(0, 1fr) auto; height: 100%; overflow: hidden; }
.left { display: flex; flex-direction: column; gap: 12px; padding: 16px 20px; border-right: 1px solid var(--rule); overflow: hidden auto; }
.middle { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.middle > .rows { flex: 1; min-height: 0; }
.right { width: 320px; border-left: 1px solid var(--rule); }
.right.wider { width: 380px; }
.bottom { grid-column: 1 / -1; grid-row: 2; }
.lost { padding: 60px; text-align: center; }
@media (width < 1180px) {
  .sheet { grid-template-columns: 250px minmax(0, 1fr); }
  .left { padding: 12px; }
  .right { position: absolute; top: 0; right: 0; bottom: 69px; z-index: 10; width: min(320px, 100%); }
}
@media (width < 900px) {
  .sheet { grid-template-columns: minmax(0, 1fr); }
  .left.drawer { position: absolute; top: 0; left: 0; bottom: 0; z-index: 30; width: min(290px, 92%); background: var(--paper); visibility: hidden; }
  .left.drawer.open { visibility: visible; }
}
</style>
