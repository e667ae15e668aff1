<script setup lang="ts">
import { useDraft } from './useDraft'

/** A number that is drawn along a line, and kept when it is let go. */
const props = defineProps<{ value: number; label?: string; percent?: boolean; least?: number; most?: number; step: number }>()
const emit = defineEmits<{ keep: [value: number]; move: [value: number] }>()
const { draft, begin, keep } = useDraft(() => props.value, (value) => emit('keep', value))
function moved() {
  begin()
  emit('move', draft.value)
}
</script>

<template>
  <span class="slide">
    <input v-model.number="draft" type="range" :min="least" :max="most" :step="step" :aria-label="label" @input="moved" @change="keep">
    <output class="time">{{ percent ? `${Math.round(draft * 1000) / 10} %` : Math.round(draft * 10) / 10 }}</output>
  </span>
</template>

<style scoped>
.slide { display: flex; gap: 10px; align-items: center; width: 100%; }
.slide input { flex: 1; min-width: 0; accent-color: var(--pencil); }
.slide output { width: 7ch; text-align: right; }
</style>
