<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ref, watchEffect } from 'vue'
import type { Clip } from './useClips'

/** Loudness over the whole length, in which every clip taken is a coloured stretch. */
const props = defineProps<{ levels: number[]; duration: number; clips: Clip[] }>()

const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(canvas)

watchEffect(() => {
  const target = canvas.value?.getContext('2d')
  if (!target || !width.value) return
  const scale = devicePixelRatio
  canvas.value!.width = width.value * scale
  canvas.value!.height = height.value * scale
  target.scale(scale, scale)
  const step = width.value / Math.max(props.levels.length, 1)
  props.levels.forEach((level, n) => {
    const at = ((n + 0.5) / props.levels.length) * props.duration
    const taken = props.clips.some((clip) => clip.stretches.some(({ start, end }) => start <= at && at < end))
    target.fillStyle = taken ? '#2b5fc7' : '#a79f8f'
    const tall = Math.max((level / 255) * height.value, 1)
    target.fillRect(n * step, height.value - tall, Math.max(step - 0.6, 0.6), tall)
  })
})
</script>

<template>
  <canvas ref="canvas" class="skyline" role="img" :aria-label="`Loudness over the recording; ${clips.length} clips taken from it`"></canvas>
</template>

<style scoped>
.skyline { display: block; width: 100%; height: 38px; border-bottom: 1px solid var(--rule); }
</style>
