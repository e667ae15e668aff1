<script setup lang="ts">
import { computed } from 'vue'
import { assetFile } from '@/api/files'
import type { Doc } from '@/document/useDocument'
import { useChoices } from '@/shared/useChoices'
import type { Bar } from './bars'

/** What a bar shows or plays, small: a picture of it, or how loud it is. */
const props = defineProps<{ bar: Bar; doc: Doc; peaks: Uint8Array | null }>()
const choices = useChoices()

const LOUD = 12 // strokes
const source = computed(() => props.doc.sources.find((each) => each.id === props.bar.media))
const strokes = computed(() => {
  const all = props.peaks
  if (props.bar.lane !== 'sound' || !all?.length) return []
  return Array.from({ length: LOUD }, (_, n) => Math.max(all[Math.floor(((n + 0.5) * all.length) / LOUD)]! / 255, 0.08))
})
</script>

<template>
  <svg v-if="strokes.length" viewBox="0 0 24 14" aria-hidden="true"><rect v-for="(high, n) in strokes" :key="n" :x="n * 2" :y="7 - high * 7" width="1.2" :height="high * 14" /></svg>
  <i v-else-if="source?.has_picture" :style="{ backgroundImage: `url(/api/recordings/${source.id}/files/thumbs)`, backgroundSize: `${(choices?.thumbs_across ?? 1) * 100}% auto` }"></i>
  <img v-else-if="!source" :src="assetFile(bar.media)" alt="" loading="lazy">
</template>

<style scoped>
svg, i, img { flex: none; width: 24px; height: 14px; margin-top: 1px; }
img { object-fit: contain; }
rect { fill: var(--moss); }
</style>
