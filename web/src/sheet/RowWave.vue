<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'

/** The loudness of one row, running down; `peaks` are `rate` bytes a second of the whole recording. */
const props = defineProps<{ peaks: Uint8Array | null; rate: number; start: number; end: number }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const WIDTH = 28
const HEIGHT = 30

function draw() {
  const target = canvas.value?.getContext('2d')
  if (!target || !props.peaks) return
  target.clearRect(0, 0, WIDTH, HEIGHT)
  target.fillStyle = '#b4572f'
  const from = props.start * props.rate
  const step = ((props.end - props.start) * props.rate) / (HEIGHT / 2)
  for (let n = 0; n < HEIGHT / 2; n++) {
    let most = 0
    for (let k = Math.floor(from + n * step); k < from + (n + 1) * step; k++) most = Math.max(most, props.peaks[k] ?? 0)
    const half = Math.max((most / 255) * (WIDTH / 2), 0.5)
    target.fillRect(WIDTH / 2 - half, n * 2, half * 2, 1.2)
  }
}

onMounted(draw)
watch(props, draw)
</script>

<template>
  <canvas ref="canvas" :width="WIDTH" :height="HEIGHT" aria-hidden="true"></canvas>
</template>
