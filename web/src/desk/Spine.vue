<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { ref, watchEffect } from 'vue'
import type { Chapter } from './useChapters'
import type { Clip } from '@/recordings/useClips'
import type { Transcript } from '@/document/transcript'
import type { Plan } from '@/player/timeline'
import StripSlider from '@/shared/StripSlider.vue'

/** The whole recording on one vertical strip: who speaks, loudness, what is cut, clips, passages, where you are. */
const props = defineProps<{
  duration: number
  skyline: number[]
  plan: Plan | null
  clips: Clip[]
  passages: { id: string; start: number; end: number; current: boolean }[]
  chapters: Chapter[]
  source: number
  transcript: Transcript | null
}>()
const emit = defineEmits<{ go: [seconds: number] }>()

const canvas = ref<HTMLCanvasElement | null>(null)
const { width, height } = useElementSize(canvas)

watchEffect(() => {
  const target = canvas.value?.getContext('2d')
  if (!target || !width.value || !height.value || !props.duration) return
  const scale = devicePixelRatio
  canvas.value!.width = width.value * scale
  canvas.value!.height = height.value * scale
  target.scale(scale, scale)
  const y = (seconds: number) => (seconds / props.duration) * height.value
  const middle = width.value / 2
  target.fillStyle = '#ffe7a6'
  for (const { start, end } of props.clips.flatMap((clip) => clip.stretches)) target.fillRect(0, y(start), width.value, Math.max(y(end) - y(start), 2))
  // What is worth sharing, as brackets down the right edge.
  for (const { start, end, current } of props.passages) {
    target.fillStyle = current ? '#2b5fc7' : '#4f7a4b'
    const [top, bottom, wide] = [y(start), Math.max(y(end), y(start) + 3), current ? 3 : 2]
    target.fillRect(width.value - 9, top, wide, bottom - top)
    for (const edge of [top, bottom - 1]) target.fillRect(width.value - 13, edge, 5, 1)
  }
  // Who speaks, down the left edge; where nobody does, the paper shows.
  const { words = [], paragraphs = [], speakers = [] } = props.transcript ?? {}
  const colours = new Map(speakers.map((speaker) => [speaker.key, speaker.colour]))
  for (const { first, last, speaker } of paragraphs) {
    target.fillStyle = colours.get(speaker) || '#5b6270'
    const top = y(words[first]!.start)
    target.fillRect(0, top, 6, Math.max(y(words[last]!.end) - top, 1))
  }
  target.fillStyle = '#8b8f98'
  props.skyline.forEach((level, n) => {
    const half = (level / 255) * (middle - 8)
    const top = (n / props.skyline.length) * height.value
    target.fillRect(middle - half, top, half * 2, Math.max(height.value / props.skyline.length - 0.5, 0.5))
  })
  if (props.plan) {
    target.fillStyle = '#2b5fc7'
    let at = 0
    for (const stretch of [...(props.plan.stretches ?? []), null]) {
      const start = stretch?.start ?? props.duration
      if (start - at > 0.05) target.fillRect(width.value - 4, y(at), 4, Math.max(y(start) - y(at), 1))
      at = stretch?.end ?? at
    }
  }
  target.fillStyle = '#7a4b7f'
  for (const { start } of props.chapters) target.fillRect(0, y(start) - 1, width.value, 2)
  target.fillStyle = '#20242b'
  target.fillRect(0, y(props.source) - 1, width.value, 2)
})

</script>

<template>
  <div class="spine">
    <canvas ref="canvas" aria-hidden="true"></canvas>
    <StripSlider :time="source" :length="duration" label="Place in the whole recording" vertical @seek="emit('go', $event)" />
  </div>
</template>

<style scoped>
.spine { position: relative; width: 100%; height: 100%; background: var(--paper-2); }
.spine:has(:focus-visible) { outline: 2px solid var(--pencil); outline-offset: -2px; }
canvas { display: block; width: 100%; height: 100%; }
</style>
