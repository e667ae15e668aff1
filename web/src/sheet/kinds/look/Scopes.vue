<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { inject, onMounted, ref } from 'vue'
import { vectorscope, waveform } from '@/player/scopes'
import { STAGE } from '@/stage/stage'

/** The light and the colours of what the stage shows, measured. */
const WIDE = 128, LEVELS = 96, SIZE = 96 // pixels of the scopes
const stage = inject(STAGE)
const light = ref<HTMLCanvasElement | null>(null)
const colour = ref<HTMLCanvasElement | null>(null)
const small = document.createElement('canvas')
let shown = ''

function measure() {
  const canvas = stage?.value
  if (!canvas?.width || canvas.dataset.frame === undefined) return
  small.width = WIDE
  small.height = Math.round((WIDE * canvas.height) / canvas.width)
  const sheet = small.getContext('2d', { willReadFrequently: true })!
  sheet.drawImage(canvas, 0, 0, small.width, small.height)
  const { data } = sheet.getImageData(0, 0, small.width, small.height)
  const now = `${canvas.dataset.frame} ${data.reduce((sum, value, n) => (sum + value * ((n % 97) + 1)) % 1e9, 0)}`
  if (now === shown) return
  shown = now
  draw(light.value!, waveform(data, WIDE, LEVELS), WIDE, LEVELS)
  draw(colour.value!, vectorscope(data, SIZE), SIZE, SIZE)
}

/** Counts as brightness: few are seen too. */
function draw(canvas: HTMLCanvasElement, counts: Uint32Array, width: number, height: number) {
  const image = new ImageData(width, height)
  counts.forEach((count, n) => {
    const bright = count ? 70 + 60 * Math.log2(1 + count) : 0
    image.data.set([bright, bright, bright, 255], n * 4)
  })
  const sheet = canvas.getContext('2d')!
  sheet.putImageData(image, 0, 0)
  if (canvas === colour.value) {
    sheet.fillStyle = 'rgb(255 255 255 / 0.5)'
    sheet.fillRect(SIZE / 2, 0, 0.5, SIZE)
    sheet.fillRect(0, SIZE / 2, SIZE, 0.5)
  }
}

onMounted(measure)
useIntervalFn(measure, 250)
</script>

<template>
  <div class="scopes">
    <figure>
      <canvas ref="light" :width="WIDE" :height="LEVELS" role="img" aria-label="How light the picture is, from left to right" data-test="waveform"></canvas>
      <figcaption>Light, left to right</figcaption>
    </figure>
    <figure>
      <canvas ref="colour" :width="SIZE" :height="SIZE" role="img" aria-label="Which colours the picture has" data-test="vectorscope"></canvas>
      <figcaption>Colours, grey in the middle</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.scopes { display: flex; gap: 10px; }
figure { margin: 0; }
canvas { display: block; height: 96px; border-radius: 3px; background: #000; }
figcaption { margin-top: 2px; color: var(--ink-2); font-size: 12px; }
</style>
