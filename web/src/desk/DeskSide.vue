<script setup lang="ts">
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import Transport from '@/player/Transport.vue'
import { busy } from '@/recordings/recording'
import SweepPanel from './SweepPanel.vue'
import { panelOf, TABS, type Tab } from './tabs'
import type { DeskPage } from './useDeskPage'

/** The picture of a recording, how it is played, and the panels. */
const props = defineProps<{ page: DeskPage; saved: number /* seconds that cuts take out */ }>()
const tab = defineModel<Tab>('tab', { required: true })
const { doc, sheet, choices, now, player, picture, stopped, hear } = props.page

const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
watch(canvas, (there) => (picture.value = there), { flush: 'post' })
const shape = computed(() => {
  const media = now.value?.media
  return media?.has_picture && media.height ? (media.width ?? 16) / media.height : 16 / 9
})
/** The tabs are one stop: the arrows go from one to the other. */
function turn(step: number) {
  const at = TABS.findIndex(([key]) => key === tab.value)
  tab.value = TABS[(at + step + TABS.length) % TABS.length]![0]
  void nextTick(() => document.getElementById(`tab-${tab.value}`)?.focus())
}
useCommands(() => [
  { id: 'tab-next', label: 'Next panel', keys: ['Right'], where: '[data-desk-tabs]', run: () => turn(1) },
  { id: 'tab-before', label: 'Previous panel', keys: ['Left'], where: '[data-desk-tabs]', run: () => turn(-1) },
])
const Panel = () => panelOf(tab.value, props.page)
</script>

<template>
  <aside aria-label="Picture and panels">
    <div v-show="!now?.media || now.media.has_picture" class="stage">
      <canvas ref="canvas" width="640" :height="Math.round(640 / shape)" :style="{ aspectRatio: shape }"></canvas>
      <span v-if="now && !now.playable" class="nopicture">
        {{ stopped && !busy(now, ['bringing in']) ? 'There is no preview: preparing it was stopped. Press Resume or Retry above.' : 'The preview is being prepared…' }}
      </span>
    </div>
    <Transport
      :time="player.source.value" :length="now?.duration ?? 0" :playing="player.playing.value" :ready="player.ready.value" :speed="player.speed.value"
      :edited="saved > 0.05 ? player.time.value : null"
      @toggle="player.toggle" @seek="player.seekSource" @speed="player.speed.value = $event"
    />
    <div class="tabs" role="tablist" aria-label="Panels" data-desk-tabs>
      <button v-for="[key, name] in TABS" :id="`tab-${key}`" :key="key" role="tab" :tabindex="tab === key ? 0 : -1" :aria-selected="tab === key" aria-controls="panel" @click="tab = key">{{ name }}</button>
    </div>
    <div id="panel" class="panel" role="tabpanel" tabindex="0" :aria-labelledby="`tab-${tab}`">
      <SweepPanel v-show="tab === 'sweep'" :doc="doc" :kinds="choices?.sweep_kinds ?? []" :sweep="sheet.sweep" @hear="hear" />
      <Panel />
    </div>
    <p class="keys quiet">Space plays · J K L · arrows move, Shift selects · Delete cuts, B restores · Enter corrects · D next to check · 1–9 speaker · M makes a clip · Ctrl+F finds</p>
  </aside>
</template>

<style scoped>
aside { display: flex; flex-direction: column; gap: 10px; min-height: 0; padding: 14px 16px 10px; }
.stage { position: relative; flex: none; background: var(--ink); border-radius: 4px; overflow: hidden; }
.stage canvas { display: block; width: 100%; max-height: 26vh; object-fit: contain; }
.nopicture { position: absolute; inset: 0; display: grid; padding: 0 20px; text-align: center; place-items: center; color: #c9cdd5; font-size: 14px; }
.tabs { display: flex; flex: none; flex-wrap: wrap; gap: 0 7px; border-bottom: 1px solid var(--rule); }
.tabs button { padding: 6px 0; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-2); font-weight: 500; font-size: 13px; white-space: nowrap; cursor: pointer; }
.tabs button[aria-selected='true'] { border-bottom-color: var(--pencil); color: var(--ink); }
.panel { flex: 1; min-height: 0; overflow-y: auto; font-size: 14px; }
.keys { flex: none; margin: 0; font-size: 12px; line-height: 1.4; }
@media (width < 1180px) {
  .tabs { gap: 10px; }
  .tabs button { font-size: 13px; }
}
@media (width < 900px) {
  aside.drawer { position: absolute; top: 0; right: 0; bottom: 0; z-index: 30; width: min(340px, 92%); overflow-y: auto; border-left: 1px solid var(--rule); background: var(--paper); visibility: hidden; }
  aside.drawer.open { visibility: visible; }
  aside.drawer .panel { flex: none; overflow: visible; }
}
@media (height < 560px) {
  .keys { display: none; }
}
</style>
