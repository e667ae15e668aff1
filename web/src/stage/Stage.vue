<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Doc } from '@/document/useDocument'

/** The picture of a clip at the playhead and its captions over it; in the slot, what is moved by hand. `safe` is where the safe area is. */
const props = defineProps<{ doc: Doc | null; guarded: boolean /* the safe area is drawn */ }>()

const picture = ref<HTMLCanvasElement | null>(null)
const words = ref<HTMLCanvasElement | null>(null)
defineExpose({ picture, words })

const shape = computed(() => (props.doc ? props.doc.plan.width / props.doc.plan.height : 9 / 16))
const frame = ref<HTMLElement | null>(null)
const room = useElementSize(frame)
/** The largest of its shape that there is room for. */
const size = computed(() => {
  const height = Math.min(room.height.value, room.width.value / shape.value)
  return { width: `${Math.round(height * shape.value)}px`, height: `${Math.round(height)}px` }
})
const resolution = computed(() => {
  const width = Math.round(540 * Math.min(1, shape.value / 0.5625))
  return { width, height: Math.round(width / shape.value) }
})

const safe = computed(() => inset(props.doc?.outlet.safe))
const grid = computed(() => inset(props.doc?.grid))
/** Where margins of the output are on the stage. */
function inset(margins: number[] | null | undefined) {
  const outlet = props.doc?.outlet
  if (!outlet || !margins) return null
  const [left, top, right, bottom] = margins as [number, number, number, number]
  const part = (pixels: number, of: number) => `${(100 * pixels) / of}%`
  return { inset: `${part(top, outlet.height)} ${part(right, outlet.width)} ${part(bottom, outlet.height)} ${part(left, outlet.width)}` }
}
</script>

<template>
  <div ref="frame" class="frame">
  <div class="stage" :style="size">
    <canvas ref="picture" :width="resolution.width" :height="resolution.height" data-test="picture"></canvas>
    <canvas ref="words" :style="size" data-test="captions"></canvas>
    <div v-if="guarded && safe" class="safe" :style="safe" title="What the outlet leaves free: captions stay inside"></div>
    <div v-if="guarded && grid" class="grid" :style="grid" title="What the grid of a profile shows"></div>
    <slot :safe="safe" />
  </div>
  </div>
</template>

<style scoped>
.frame { display: grid; flex: 1; min-width: 0; min-height: 0; place-items: center; overflow: hidden; }
.stage { position: relative; background: var(--ink); border-radius: 4px; overflow: hidden; flex: none; }
.stage canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
.safe { position: absolute; border: 1px dashed var(--paper); outline: 1px dashed var(--ink); outline-offset: 0; pointer-events: none; }
.grid { position: absolute; border: 2px dotted var(--paper); pointer-events: none; }
</style>
