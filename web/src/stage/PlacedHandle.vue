<script lang="ts">
/** Where a thing stands: its middle in shares of the output, its size in a measure of its own, its turn in degrees. */
export interface Placed { x?: number; y?: number; scale?: number; turn?: number }
</script>

<script setup lang="ts">
import { computed, ref } from 'vue'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { edgesOf, snapped, within, type Box, type Limits } from './seen'

type Outlet = Doc['outlet']

/** On the stage: drag a picture to where it is to stand, or its corner to make it larger. Alt lets go of the lines. `box` is of the size `drawn`. */
const props = defineProps<{ content: Placed; drawn?: number; box: Box; limits: { x?: Limits; y?: Limits; scale?: Limits }; outlet: Outlet; keeps?: boolean /* inside the safe area */; meets?: (box: { left: number; top: number; width: number; height: number }) => string }>()
const emit = defineEmits<{ change: [placed: Placed] }>()

const moved = ref<Placed | null>(null)
const lines = ref<{ x: number | null; y: number | null }>({ x: null, y: null })
/** The picture in shares of the stage, at a size. */
const sized = (scale = 1) => [props.box.width, props.box.height].map((each) => (each * scale) / (props.drawn ?? 1)) as [number, number]
const shown = computed(() => {
  const { x = 0.5, y = 0.5, scale = 1 } = { ...props.content, ...moved.value }
  const [width, height] = sized(scale)
  const percent = (share: number) => `${share * 100}%`
  return { left: percent(x - width / 2), top: percent(y - height / 2), width: percent(width), height: percent(height), transform: `rotate(${props.content.turn ?? 0}deg)` }
})

/** Whether it leaves what the outlet keeps free, while it is dragged. */
const outside = computed(() => {
  if (!moved.value || !props.keeps) return false
  const { x = 0.5, y = 0.5, scale = 1 } = { ...props.content, ...moved.value }
  const [wide, high] = sized(scale), { width, height, safe: [left, top, right, bottom] } = props.outlet
  return x - wide / 2 < left / width - EDGE || x + wide / 2 > 1 - right / width + EDGE || y - high / 2 < top / height - EDGE || y + high / 2 > 1 - bottom / height + EDGE
})
/** What else stands where it is dragged. */
const met = computed(() => {
  if (!moved.value || !props.meets) return ''
  const { x = 0.5, y = 0.5, scale = 1 } = { ...props.content, ...moved.value }
  const [width, height] = sized(scale)
  return props.meets({ left: x - width / 2, top: y - height / 2, width, height })
})
const EDGE = 0.002 // of the stage: nearer than can be seen

const follow = usePointerDrag()
function drag(event: PointerEvent, to: (across: number, down: number, free: boolean) => Placed) {
  const stage = (event.currentTarget as HTMLElement).closest('.stage')!.getBoundingClientRect()
  const from = [event.clientX, event.clientY] as const
  const move = (now: PointerEvent) => (moved.value = to((now.clientX - from[0]) / stage.width, (now.clientY - from[1]) / stage.height, now.altKey))
  follow(event, move, (kept) => {
    if (kept && moved.value) emit('change', moved.value)
    moved.value = null
    lines.value = { x: null, y: null }
  })
}

function place(event: PointerEvent) {
  const { x = 0.5, y = 0.5 } = props.content
  drag(event, (across, down, free) => {
    if (free) return { x: within(x + across, props.limits.x), y: within(y + down, props.limits.y) }
    const { width, height, safe: [left, top, right, bottom] } = props.outlet
    const [wide, high] = sized(props.content.scale)
    const [a, b] = [
      snapped(x + across, props.limits.x, edgesOf(wide, [left / width, 1 - right / width])),
      snapped(y + down, props.limits.y, edgesOf(high, [top / height, 1 - bottom / height])),
    ]
    lines.value = { x: a.line, y: b.line }
    return { x: a.at, y: b.at }
  })
}

/** By pixels of the output. */
function nudge(across: number, down: number, far: boolean) {
  const { x = 0.5, y = 0.5 } = props.content
  const pixels = far ? 10 : 1
  emit('change', { x: within(x + (across * pixels) / props.outlet.width, props.limits.x, FINE), y: within(y + (down * pixels) / props.outlet.height, props.limits.y, FINE) })
}

const FINE = 1e5 // a pixel is less than the thousandths that dragging goes by
const WHERE = '[data-placed]'
const ARROWS = [['Left', -1, 0], ['Right', 1, 0], ['Up', 0, -1], ['Down', 0, 1]] as const
useCommands(() => ARROWS.map(([key, across, down]) => (
  { id: `placed-${key.toLowerCase()}`, label: `The picture a pixel ${key === 'Up' || key === 'Down' ? key.toLowerCase() : `to the ${key.toLowerCase()}`}`, keys: [key, `Shift+${key}`], where: WHERE, run: (event: { shiftKey: boolean }) => nudge(across, down, event.shiftKey) }
)))

function resize(event: PointerEvent) {
  const { scale = 1 } = props.content
  drag(event, (across) => ({ scale: within(scale + (2 * across) / sized()[0], props.limits.scale) }))
}
</script>

<template>
  <div class="over">
    <span v-if="lines.x !== null" class="line down" :style="{ left: `${lines.x * 100}%` }"></span>
    <span v-if="lines.y !== null" class="line across" :style="{ top: `${lines.y * 100}%` }"></span>
    <div class="placed" :class="{ outside: outside || !!met }" :style="shown" data-placed tabindex="0" role="group" aria-label="The picture: drag it, or move it with the arrows" title="Drag the picture to where it is to stand; the arrows move it by pixels, with Shift by ten" data-test="placed-handle" @pointerdown.prevent="place">
      <b v-if="outside">Leaves the safe area</b>
      <b v-else-if="met">Over {{ met }}</b>
      <span class="corner" title="Drag to make it larger or smaller" data-test="placed-corner" @pointerdown.prevent.stop="resize"></span>
    </div>
  </div>
</template>

<style scoped>
.over { position: absolute; inset: 0; overflow: hidden; }
.placed { position: absolute; border: 2px solid var(--pencil); cursor: grab; touch-action: none; }
.outside { border-color: var(--alarm); border-style: dashed; }
b { position: absolute; top: 2px; left: 2px; padding: 1px 4px; background: var(--paper); color: var(--alarm); font-size: 11px; white-space: nowrap; pointer-events: none; }
.corner { position: absolute; right: -2px; bottom: -2px; width: 18px; height: 18px; background: var(--pencil); cursor: nwse-resize; touch-action: none; }
.line { position: absolute; background: var(--pencil); }
.down { inset: 0 auto; width: 1px; }
.across { inset: auto 0; height: 1px; }
</style>
