<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Content } from '@/composables/useDocument'
import { snapped, within, type Box, type Limits } from './seen'

type Framing = Extract<Content, { kind: 'framing' }>

/** On the stage: drag the picture to where it is to stand, or its corner to make it larger. Alt lets go of the lines. */
const props = defineProps<{ content: Framing; box: Box; fields: Record<string, Limits> }>()
const emit = defineEmits<{ change: [content: Content] }>()

const moved = ref<Partial<Framing> | null>(null)
const lines = ref<{ x: number | null; y: number | null }>({ x: null, y: null })
const shown = computed(() => {
  const { x = 0.5, y = 0.5, scale = 1 } = { ...props.content, ...moved.value }
  const times = scale / (props.content.scale ?? 1)
  const [width, height] = [props.box.width * times, props.box.height * times]
  const percent = (share: number) => `${share * 100}%`
  return { left: percent(x - width / 2), top: percent(y - height / 2), width: percent(width), height: percent(height), transform: `rotate(${props.content.turn ?? 0}deg)` }
})

function drag(event: PointerEvent, to: (across: number, down: number, free: boolean) => Partial<Framing>) {
  const handle = event.currentTarget as HTMLElement
  const stage = handle.closest('.stage')!.getBoundingClientRect()
  const from = [event.clientX, event.clientY] as const
  handle.setPointerCapture(event.pointerId)
  const move = (now: PointerEvent) => (moved.value = to((now.clientX - from[0]) / stage.width, (now.clientY - from[1]) / stage.height, now.altKey))
  handle.addEventListener('pointermove', move)
  handle.addEventListener('pointerup', () => {
    handle.removeEventListener('pointermove', move)
    if (moved.value) emit('change', { ...props.content, ...moved.value })
    moved.value = null
    lines.value = { x: null, y: null }
  }, { once: true })
}

function place(event: PointerEvent) {
  const { x = 0.5, y = 0.5 } = props.content
  drag(event, (across, down, free) => {
    if (free) return { x: within(x + across, props.fields.x), y: within(y + down, props.fields.y) }
    const [a, b] = [snapped(x + across, props.fields.x), snapped(y + down, props.fields.y)]
    lines.value = { x: a.line, y: b.line }
    return { x: a.at, y: b.at }
  })
}

function resize(event: PointerEvent) {
  const { scale = 1 } = props.content
  drag(event, (across) => ({ scale: within(scale * (1 + (2 * across) / props.box.width), props.fields.scale) }))
}
</script>

<template>
  <div class="over">
    <span v-if="lines.x !== null" class="line down" :style="{ left: `${lines.x * 100}%` }"></span>
    <span v-if="lines.y !== null" class="line across" :style="{ top: `${lines.y * 100}%` }"></span>
    <div class="placed" :style="shown" title="Drag the picture to where it is to stand" data-test="placed-handle" @pointerdown.prevent="place">
      <span class="corner" title="Drag to make it larger or smaller" data-test="placed-corner" @pointerdown.prevent.stop="resize"></span>
    </div>
  </div>
</template>

<style scoped>
.over { position: absolute; inset: 0; overflow: hidden; }
.placed { position: absolute; border: 2px solid var(--pencil); cursor: grab; touch-action: none; }
.corner { position: absolute; right: -2px; bottom: -2px; width: 18px; height: 18px; background: var(--pencil); cursor: nwse-resize; touch-action: none; }
.line { position: absolute; background: var(--pencil); }
.down { inset: 0 auto; width: 1px; }
.across { inset: auto 0; height: 1px; }
</style>
