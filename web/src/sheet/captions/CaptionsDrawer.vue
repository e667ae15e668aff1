<script setup lang="ts">
import type { Fault } from '@/proof/useProof'
import { computed, onMounted, ref } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { captionsOf } from './arranging'
import { clock } from '@/shared/format'
import type { Choices } from '@/shared/useChoices'
import type { CaptionLayout, Doc, Edit, WordRef } from '@/document/useDocument'
import { tell, tellError } from '@/shared/tell'
import { useStyleChange, type ChooseStyle } from './useStyleChange'
import { fps } from '@/player/timeline'
import CaptionList from './CaptionList.vue'
import FieldsForm from '@/shared/FieldsForm.vue'
import StylePicker from './StylePicker.vue'

/** How the captions of the clip look, set in its own words, how its words are grouped into them, and each one by hand. */
const props = defineProps<{ doc: Doc; choices: Choices; time: number; chooseStyle: ChooseStyle; letters: Fault[] }>()
const emit = defineEmits<{
  close: []; layout: [layout: CaptionLayout]; go: [seconds: number]
  edit: [edits: Edit[]]; keywords: []; open: [layer: string]; word: [first: WordRef, last: WordRef, hidden: boolean]; write: [first: WordRef, last: WordRef, text: string]
}>()

const view = ref<'all' | 'each'>('all')

const SAMPLE = 4 // words
const words = computed(() => (props.doc.plan.words ?? []).slice(0, SAMPLE).map((word) => word.text).join(' ').slice(0, 100) || 'What is said')
const layout = computed(() => props.doc.sheet.layout!)
const preset = computed(() => props.doc.layout_name)
const { now, changed } = useStyleChange(() => props.doc.sheet, () => props.choices, (...of) => props.chooseStyle(...of))
const troubled = computed(() => {
  const all = captionsOf(props.doc.plan)
  return [
    { says: 'too fast to read', those: all.filter((each) => each.fast) },
    { says: 'over a face', those: all.filter((each) => each.overFace), height: props.doc.clear_height },
  ].filter((each) => each.those.length)
})

const marked = computed(() => props.doc.sheet.keywords ?? [])

async function forShow() {
  const asked = api.POST('/api/captions/documents/{document_id}/for-show', { params: { path: { document_id: props.doc.id } } })
  const show = await got(asked).catch(tellError)
  if (show) tell(`New clips of “${show.name}” begin with these captions.`)
}

const FILES = ['srt', 'vtt', 'txt'] // of the captions as they stand
const heading = ref<HTMLElement | null>(null)
useCommands(() => [{ id: 'close-captions', label: 'Close', keys: ['Escape'], run: () => emit('close') }])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" :class="{ each: view === 'each' }" aria-label="Captions">
    <header>
      <h2 ref="heading" tabindex="-1">Captions</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <el-radio-group v-model="view" size="small" aria-label="What to change">
      <el-radio-button value="all">All captions</el-radio-button>
      <el-radio-button value="each">One by one</el-radio-button>
    </el-radio-group>
    <CaptionList v-if="view === 'each'" :doc="doc" :time="time" @edit="$emit('edit', $event)" @go="$emit('go', $event)" @open="$emit('open', $event)" @word="(...of) => $emit('word', ...of)" @write="(...of) => $emit('write', ...of)" />
    <p class="files">Download <a v-for="kind in FILES" :key="kind" :href="`/api/documents/${doc.id}/editions/${doc.edition}/captions.${kind}`" download>{{ kind.toUpperCase() }}</a></p>
    <template v-if="view !== 'each'">
    <h3>Words in a caption</h3>
    <el-radio-group :model-value="preset" size="small" aria-label="Words in a caption" class="presets" @change="$emit('layout', choices.caption_layouts[$event as string]!)">
      <el-radio-button v-for="(_, name) in choices.caption_layouts" :key="name" :value="name">{{ name }}</el-radio-button>
    </el-radio-group>
    <details>
      <summary>Lengths and timing{{ preset ? '' : ', custom' }}</summary>
      <FieldsForm :values="{ ...layout }" :fields="choices.layout_fields" @change="$emit('layout', $event as CaptionLayout)" />
    </details>
    <h3>Style</h3>
    <p v-for="each in letters" :key="each.key" class="alarm" role="status">{{ each.says }}</p>
    <StylePicker :sheet="doc.sheet" :choices="choices" :words="words" :choose="chooseStyle" />
    <el-button v-if="doc.sheet.captions" size="small" @click="forShow">Use for new clips of this show</el-button>
    <h3>Highlighted words</h3>
    <p class="quiet">{{ marked.length ? `${marked.length} of them.` : 'The words that carry a phrase, in a colour of their own.' }} K highlights the selected words.</p>
    <span class="marks">
      <el-button size="small" @click="$emit('keywords')">Highlight one word per phrase</el-button>
      <el-button v-if="marked.length" size="small" @click="$emit('edit', [{ type: 'mark_keywords', words: marked, marked: false }])">Remove all highlights</el-button>
    </span>
    <template v-for="{ says, those, height } in troubled" :key="says">
      <h3>{{ those.length }} {{ says }}</h3>
      <el-button v-if="height != null" size="small" @click="changed({ ...now!, height })">Move all captions clear of faces</el-button>
      <ul>
        <li v-for="each in those" :key="each.first">
          <button @click="$emit('go', each.first / fps(doc.plan))"><span class="time quiet">{{ clock(each.first / fps(doc.plan)) }}</span> {{ each.words.map((word) => word.text).join(' ') }}</button>
        </li>
      </ul>
    </template>
    </template>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
.drawer.each { overflow: hidden; }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
h3 { margin: 6px 0 0; font-size: 14px; }
.files { display: flex; gap: 10px; }
.marks { display: flex; flex-wrap: wrap; gap: 6px; }
.marks .el-button { margin-left: 0; }
p { margin: 0; font-size: 13px; }
.presets { display: flex; flex-wrap: wrap; }
summary { font-size: 14px; cursor: pointer; }
details > :deep(.form) { padding-top: 10px; }
ul { margin: 0; padding: 0; list-style: none; }
li button { width: 100%; padding: 5px 0; border: 0; border-bottom: 1px solid var(--rule); background: none; font-size: 14px; text-align: left; cursor: pointer; }
</style>
