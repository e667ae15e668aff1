<script setup lang="ts">
import { computed } from 'vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import { clock } from '@/shared/format'
import type { Ask, Content, Doc } from '@/document/useDocument'
import HeardPart from '@/sheet/kinds/HeardPart.vue'
import { usePart } from '@/sheet/kinds/usePart'

type VoiceOver = Extract<Content, { kind: 'voice_over' }>

/** Which part of a take is heard, room of its own for it, and a recording in its place. */
const props = defineProps<{ content: VoiceOver; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content]; ask: [ask: Ask] }>()

const set = (part: Partial<VoiceOver>) => emit('change', { ...props.content, ...part })
const { source, start, share, slid, dropped } = usePart(props, (start) => set({ start }))
const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
const end = computed(() => props.content.end || source.value?.duration || 0)
const LEAST = 0.2 // seconds that are heard at least
</script>

<template>
  <template v-if="source">
    <HeardPart :source="source" :start="start" :lasts="Math.max(end - start, 0)" :share="share" @slid="slid" @dropped="dropped" />
    <label class="label end">Ends at (s)
      <el-input-number :model-value="Math.round(end * 100) / 100" :min="start + LEAST" :max="source.duration" :step="0.1" size="small" controls-position="right" aria-label="Ends at (s)" @change="set({ end: $event ?? 0 })" />
      <span class="time quiet">of {{ clock(source.duration) }}</span>
    </label>
  </template>
  <el-button v-if="bar?.lasts && !bar.whole" size="small" @click="$emit('ask', { ask: 'give_room', layer, seconds: bar.lasts })">Give it a pause of its own before these words</el-button>
  <el-button v-if="source?.playable && bar && !bar.whole" size="small" @click="$emit('ask', { ask: 'as_piece', layer })">Make it a piece of its own, to be cut like any words</el-button>
  <details>
    <summary>Use a recording or a sound instead</summary>
    <ShelfPicker heard :chosen="content.media" @pick="set({ media: $event, start: 0, end: 0 })" />
  </details>
</template>

<style scoped>
.label { color: var(--ink-2); font-size: 13px; }
.end { display: flex; gap: 8px; align-items: center; }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
</style>
