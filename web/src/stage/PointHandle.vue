<script setup lang="ts">
import { ref } from 'vue'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { within, type Limits } from './seen'

/**
 * On the stage: drag the picture, and with it a point of it. `from` is where that is, `size` how much of the picture the
 * whole stage is, from left to right and from top to bottom.
 */
const props = defineProps<{ from: readonly [number, number]; size: readonly [number, number]; limits: Record<string, Limits>; quiet?: boolean /* seen only while it is used */ }>()
const emit = defineEmits<{ moved: [across: number, down: number] }>()

const moved = ref<[number, number] | null>(null)
const drag = usePointerDrag()

function begin(event: PointerEvent) {
  const start = [event.clientX, event.clientY] as const
  const { from, size } = props
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const move = (now: PointerEvent) => {
    moved.value = [
      within(from[0] - ((now.clientX - start[0]) / box.width) * size[0], props.limits.across),
      within(from[1] - ((now.clientY - start[1]) / box.height) * size[1], props.limits.down),
    ]
  }
  drag(event, move, (kept) => {
    if (kept && moved.value) emit('moved', ...moved.value)
    moved.value = null
  })
}
</script>

<template>
  <div class="handle" :class="{ quiet }" title="Drag the picture to reframe it" data-test="framing-handle" @pointerdown.prevent="begin">
    <span v-if="moved">{{ Math.round(moved[0] * 100) }} % across, {{ Math.round(moved[1] * 100) }} % down</span>
  </div>
</template>

<style scoped>
.handle { position: absolute; inset: 0; border: 2px solid var(--pencil); cursor: grab; touch-action: none; }
.quiet:not(:active) { border-color: transparent; }
span { position: absolute; bottom: 6px; left: 6px; padding: 1px 6px; background: var(--paper); font: 12px var(--mono); }
</style>
