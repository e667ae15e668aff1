<script setup lang="ts">
import { clock } from './format'

/**
 * A range control that lies unseen over something drawn, so that a place in it is chosen by mouse, by keyboard and by
 * a screen reader alike. Times in seconds.
 */
defineProps<{ time: number; length: number; label: string; vertical?: boolean }>()
const emit = defineEmits<{ seek: [seconds: number] }>()
</script>

<template>
  <input
    type="range" min="0" :max="length" step="0.1" :value="time" :aria-label="label" :aria-valuetext="clock(time, false)" class="over" :class="{ vertical }"
    @input="emit('seek', Number(($event.target as HTMLInputElement).value))"
  />
</template>

<style scoped>
.over { position: absolute; inset: 0; width: 100%; height: 100%; margin: 0; opacity: 0; cursor: pointer; }
.over, .over::-webkit-slider-thumb { appearance: none; }
.over::-webkit-slider-thumb { width: 1px; height: 1px; }
.over.vertical { writing-mode: vertical-lr; direction: ltr; }
</style>
