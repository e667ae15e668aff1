<script setup lang="ts">
import { ref } from 'vue'
import type { Content } from '@/composables/useDocument'

/** On the stage: drag the picture to choose what of it stays in the middle. */
const props = defineProps<{ content: Extract<Content, { kind: 'framing' | 'punch' }> }>()
const emit = defineEmits<{ change: [content: Content] }>()

const moved = ref<[number, number] | null>(null)
const within = (value: number) => Math.round(Math.min(Math.max(value, 0), 1) * 1000) / 1000

function begin(event: PointerEvent) {
  const stage = event.currentTarget as HTMLElement
  const from = [event.clientX, event.clientY] as const
  const before = [props.content.across ?? 0.5, props.content.down ?? 0.5] as const
  const box = stage.getBoundingClientRect()
  stage.setPointerCapture(event.pointerId)
  const move = (now: PointerEvent) => {
    moved.value = [within(before[0] - (now.clientX - from[0]) / box.width / 2), within(before[1] - (now.clientY - from[1]) / box.height / 2)]
  }
  const end = () => {
    stage.removeEventListener('pointermove', move)
    if (moved.value) emit('change', { ...props.content, across: moved.value[0], down: moved.value[1] })
    moved.value = null
  }
  stage.addEventListener('pointermove', move)
  stage.addEventListener('pointerup', end, { once: true })
}
</script>

<template>
  <div v-if="content.kind === 'punch' || content.mode === 'fill'" class="handle" title="Drag the picture to what should stay" @pointerdown.prevent="begin">
    <span v-if="moved">{{ Math.round(moved[0] * 100) }} % across, {{ Math.round(moved[1] * 100) }} % down</span>
  </div>
</template>

<style scoped>
.handle { position: absolute; inset: 0; border: 2px solid var(--pencil); cursor: grab; touch-action: none; }
span { position: absolute; bottom: 6px; left: 6px; padding: 1px 6px; background: var(--paper); font: 12px var(--mono); }
</style>
