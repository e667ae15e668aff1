<script setup lang="ts">
import { computed } from 'vue'
import { usePeaks } from './usePeaks'

/** How loud a recording is, from left to right. */
const props = defineProps<{ recording: string; ready: boolean }>()

const BARS = 64
const peaks = usePeaks(computed(() => [{ id: props.recording, playable: props.ready }]))
const bars = computed(() => {
  const all = peaks.value.get(props.recording)
  if (!all?.length) return []
  const bars = Math.min(BARS, all.length)
  const loud = Array.from({ length: bars }, (_, n) => Math.max(...all.subarray(Math.floor((n * all.length) / bars), Math.max(Math.floor(((n + 1) * all.length) / bars), Math.floor((n * all.length) / bars) + 1))))
  const most = Math.max(...loud, 1)
  return loud.map((each) => Math.max((each / most) * 90, 2))
})
</script>

<template>
  <svg viewBox="0 0 640 100" preserveAspectRatio="none" aria-hidden="true">
    <rect v-for="(high, n) in bars" :key="n" :x="(n * 640) / bars.length" :y="50 - high / 2" :width="Math.max(640 / bars.length - 3, 1)" :height="high" />
  </svg>
</template>

<style scoped>
svg { display: block; width: 100%; height: 100%; }
rect { fill: var(--rust); }
</style>
