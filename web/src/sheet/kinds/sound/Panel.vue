<script setup lang="ts">
import { computed } from 'vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import SoundWave from '@/player/SoundWave.vue'
import { clock } from '@/shared/format'
import type { Content, Doc } from '@/document/useDocument'
import HeardPart from '@/sheet/kinds/HeardPart.vue'
import { usePart } from '@/sheet/kinds/usePart'

type Sound = Extract<Content, { kind: 'sound' }>

/** What is heard: which part of it, and another one in its place. */
const props = defineProps<{ content: Sound; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const set = (part: Partial<Sound>) => emit('change', { ...props.content, ...part })
const { source, needed, start, share, slid, dropped } = usePart(props, (start) => set({ start }))
/** Where it has to begin so that it is over with the last word; null where it is too short for that. */
const ending = computed(() => (source.value && source.value.duration >= needed.value ? Math.round((source.value.duration - needed.value) * 1000) / 1000 : null))
</script>

<template>
  <template v-if="source && content.ends !== 'fitted'">
    <HeardPart :source="source" :start="start" :lasts="Math.min(needed, source.duration - start)" :share="share" @slid="slid" @dropped="dropped" />
    <span class="time quiet">from {{ clock(start) }} of {{ clock(source.duration) }}</span>
    <el-button v-if="content.ends === 'with its words' && ending !== null" size="small" :disabled="Math.abs(start - ending) < 0.01" @click="set({ start: ending, fade_out: 0 })">
      Let its ending fall on the last word
    </el-button>
  </template>
  <div v-else-if="source" class="strip"><SoundWave :recording="source.id" :ready="source.playable" /></div>
  <details :open="!content.media">
    <summary>{{ content.media ? 'Replace' : 'Choose a sound' }}</summary>
    <ShelfPicker heard :chosen="content.media" @pick="set({ media: $event, start: 0 })" />
  </details>
</template>

<style scoped>
.strip { flex: none; width: 100%; height: 44px; border: 1px solid var(--rule); }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
</style>
