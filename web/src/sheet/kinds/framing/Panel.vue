<script setup lang="ts">
import { computed } from 'vue'
import FieldsForm from '@/shared/FieldsForm.vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import { fps } from '@/player/timeline'
import { seenAt } from '@/stage/seen'
import type { Content, Doc } from '@/document/useDocument'

type Framing = Extract<Content, { kind: 'framing' }>

/** What is behind a picture that does not cover the stage: one that the workspace brought in. */
const props = defineProps<{ content: Framing; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const SAMPLES = 120 // places at which the path is looked at
/** Where the middle of what is seen is, from left to right, over the time that the framing lies there. */
const path = computed(() => {
  const { plan, sources, bars } = props.doc
  const bar = bars.find((each) => each.layer === props.layer)
  if (!['speaker', 'fill'].includes(props.content.mode!) || bar?.start == null || bar.end == null) return null
  const [from, frames] = [bar.start * fps(plan), (bar.end - bar.start) * fps(plan)]
  const points = Array.from({ length: SAMPLES }, (_, n) => seenAt(plan, Math.floor(from + (frames * (n + 0.5)) / SAMPLES), (media) => sources.find((each) => each.id === media))?.across)
  const now = (props.time - bar.start) / (bar.end - bar.start)
  return { line: points.flatMap((across, n) => (across === undefined ? [] : [`${((n + 0.5) / SAMPLES) * 100},${across * 40}`])).join(' '), now: now >= 0 && now <= 1 ? now * 100 : null }
})
const set = (part: Partial<Framing>) => emit('change', { ...props.content, ...part })
</script>

<template>
  <figure v-if="path">
    <svg viewBox="0 0 100 40" preserveAspectRatio="none" role="img" aria-label="Where the view is, from left (top) to right (bottom), over time" data-test="path">
      <polyline :points="path.line" />
      <line v-if="path.now !== null" :x1="path.now" :x2="path.now" y1="0" y2="40" />
    </svg>
    <figcaption>How the view moves over time: up is left, down is right. Drag the picture on the stage to correct it there.</figcaption>
  </figure>
  <template v-if="content.mode === 'fit' || content.mode === 'by hand'">
    <div v-if="content.picture" class="behind">
      <FieldsForm :values="{ strength: content.strength }" :fields="fields" only="strength" @change="set($event)" />
      <el-button size="small" @click="set({ picture: '' })">Remove the background</el-button>
    </div>
    <details data-test="behind">
      <summary>{{ content.picture ? 'Replace the background' : 'Background picture or video' }}</summary>
      <ShelfPicker :chosen="content.picture" @pick="set({ picture: $event })" />
    </details>
  </template>
</template>

<style scoped>
figure { width: 100%; margin: 0; }
svg { display: block; width: 100%; height: 64px; border: 1px solid var(--rule); background: var(--paper-2); }
polyline { fill: none; stroke: var(--pencil); stroke-width: 2; vector-effect: non-scaling-stroke; }
line { stroke: var(--ink); stroke-width: 1; vector-effect: non-scaling-stroke; }
.behind { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
figcaption { margin-top: 3px; color: var(--ink-2); font-size: 12px; }
</style>
