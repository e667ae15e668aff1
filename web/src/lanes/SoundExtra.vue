<script setup lang="ts">
import { computed, ref } from 'vue'
import ShelfPicker from '@/components/ShelfPicker.vue'
import SoundWave from '@/components/SoundWave.vue'
import StripSlider from '@/components/StripSlider.vue'
import { clock } from '@/composables/format'
import type { Content, Doc } from '@/composables/useDocument'

type Sound = Extract<Content, { kind: 'sound' }>

/** What is heard: which part of it, and another one in its place. */
const props = defineProps<{ content: Sound; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const source = computed(() => props.doc.sources.find((each) => each.id === props.content.media))
const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
const needed = computed(() => (bar.value?.start != null && bar.value.end != null ? bar.value.end - bar.value.start : 0))
const moved = ref<number | null>(null)
const start = computed(() => moved.value ?? props.content.start ?? 0)
const share = (seconds: number) => `${Math.min(seconds / source.value!.duration, 1) * 100}%`
const set = (part: Partial<Sound>) => emit('change', { ...props.content, ...part })

function dropped() {
  if (moved.value !== null) set({ start: moved.value })
  moved.value = null
}
</script>

<template>
  <template v-if="source">
    <span class="label">Which part is heard</span>
    <div class="strip" data-test="wave" @change="dropped">
      <SoundWave :recording="source.id" :ready="source.playable" />
      <i :style="{ left: share(start), width: share(Math.min(needed, source.duration - start)) }"></i>
      <StripSlider :time="start" :length="source.duration" label="Where it begins" @seek="moved = Math.round($event * 100) / 100" />
    </div>
    <span class="time quiet">from {{ clock(start) }} of {{ clock(source.duration) }}</span>
  </template>
  <details :open="!content.media">
    <summary>{{ content.media ? 'Another one in its place' : 'What is heard' }}</summary>
    <ShelfPicker heard :chosen="content.media" @pick="set({ media: $event, start: 0 })" />
  </details>
</template>

<style scoped>
.label { color: var(--ink-2); font-size: 13px; }
.strip { position: relative; flex: none; width: 100%; height: 44px; border: 1px solid var(--rule); }
i { position: absolute; top: 0; bottom: 0; box-sizing: border-box; min-width: 4px; border: 3px solid var(--pencil); background: rgb(43 95 199 / 0.15); pointer-events: none; }
.strip:focus-within { outline: 2px solid var(--pencil); outline-offset: 2px; }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
</style>
