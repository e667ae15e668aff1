<script setup lang="ts">
import { computed } from 'vue'
import FieldsForm from '@/shared/FieldsForm.vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import StripSlider from '@/shared/StripSlider.vue'
import { clock } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import type { Content, Doc } from '@/document/useDocument'
import PartsOfStill from './PartsOfStill.vue'
import { usePart } from '@/sheet/kinds/usePart'

type Broll = Extract<Content, { kind: 'broll' }>

/** What is shown over the words: another one, which part of it, what it does meanwhile. */
const props = defineProps<{ content: Broll; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const choices = useChoices()
/** The whole of it in a dozen pictures. */
const PICTURES = 12, WIDE = 24, HIGH = 40 // pixels of each
const film = computed(() => {
  const [across, down] = [choices.value?.thumbs_across ?? 1, choices.value?.thumbs_down ?? 1]
  const tall = (WIDE * 3 * 9) / 16
  return Array.from({ length: PICTURES }, (_, n) => {
    const place = Math.min(Math.floor(((n + 0.5) / PICTURES) * across * down), across * down - 1)
    return {
      backgroundImage: `url(/api/recordings/${props.content.media}/files/thumbs)`,
      backgroundSize: `${across * WIDE * 3}px ${down * tall}px`,
      backgroundPosition: `${(place % across) * -WIDE * 3 - WIDE}px ${Math.floor(place / across) * -tall}px`,
    }
  })
})

const silent = computed(() => (props.fields.volume as { minimum: number }).minimum)
const set = (part: Partial<Broll>) => emit('change', { ...props.content, ...part })
const { source, needed, start, share, slid, dropped } = usePart(props, (start) => set({ start }))

/** The parts of one picture say nothing of another. */
function swap(media: string) {
  set({ media, start: 0, ...(props.content.move === 'from part to part' ? { move: undefined } : {}) })
}
</script>

<template>
  <template v-if="source">
    <span class="label">Part of it that is seen</span>
    <div class="film" data-test="film" @change="dropped">
      <span v-for="(each, n) in film" :key="n" :style="{ ...each, height: `${HIGH}px` }"></span>
      <i :style="{ left: share(start), width: share(needed) }"></i>
      <StripSlider :time="start" :length="source.duration" label="Starts at (s)" @seek="slid" />
    </div>
    <span class="time quiet">{{ clock(start) }} to {{ clock(Math.min(start + needed, source.duration)) }} of {{ clock(source.duration) }}</span>
    <FieldsForm :values="{ volume: content.volume }" :fields="fields" only="volume" @change="set($event)" />
    <template v-if="content.volume !== undefined && content.volume > silent">
      <FieldsForm v-for="edge in ['fade_in', 'fade_out'] as const" :key="edge" :values="{ [edge]: content[edge] }" :fields="fields" :only="edge" @change="set($event)" />
    </template>
    <FieldsForm v-if="source.duration - start < needed" :values="{ short: content.short }" :fields="fields" only="short" @change="set($event)" />
  </template>
  <template v-else-if="content.media && content.fit === 'fill'">
    <FieldsForm :values="{ move: content.move }" :fields="fields" only="move" @change="set($event)" />
    <PartsOfStill v-if="content.move === 'from part to part'" :content="content" :fields="fields" :outlet="doc.outlet" @change="set" />
  </template>
  <details :open="!content.media">
    <summary>Replace</summary>
    <ShelfPicker :chosen="content.media" @pick="swap" />
  </details>
</template>

<style scoped>
.label { color: var(--ink-2); font-size: 13px; }
.film { position: relative; display: flex; width: 100%; border: 1px solid var(--rule); }
.film span { flex: 1; min-width: 0; }
.film i { position: absolute; top: 0; bottom: 0; box-sizing: border-box; min-width: 4px; border: 3px solid var(--pencil); background: rgb(43 95 199 / 0.2); pointer-events: none; }
.film:focus-within { outline: 2px solid var(--pencil); outline-offset: 2px; }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
</style>
