<script setup lang="ts">
import { computed, onMounted, provide, ref, toRef, watch } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import type { Choices } from '@/shared/useChoices'
import type { Ask, Content, Doc, Edit } from '@/document/useDocument'
import { CHOOSERS, PANELS } from '@/sheet/kinds'
import { SAVED } from '@/sheet/kinds/saved'
import { focusFirst } from '@/shared/focus'
import FieldsForm from '@/shared/FieldsForm.vue'
import EntranceSound from './EntranceSound.vue'

/** One thing that is laid over words: what it is, where it is, and its settings. */
const props = defineProps<{ doc: Doc; layer: string; content: Content | undefined; saved: Content | undefined /* as it is kept: undefined before it is */; choices: Choices; hasWords: boolean; time: number }>()
const emit = defineEmits<{ close: []; change: [content: Content]; try: [content: Content]; nudge: [edge: 'in' | 'out', frames: number]; over: []; edit: [edits: Edit[]]; ask: [ask: Ask]; apart: []; remove: [] }>()

provide(SAVED, toRef(props, 'saved'))
const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
const fields = computed(() => props.choices.contents[props.content?.kind ?? '']?.properties as Record<string, unknown> | undefined)
const presets = computed(() => props.choices.presets[props.content?.kind ?? ''])
const title = computed(() => bar.value?.label ?? props.choices.offers.find((each) => each.kind === props.content?.kind)?.label ?? '')
const editions = computed(() => (props.doc.sheet.editions ?? []).map((each) => ({ ...each, hidden: each.hidden ?? [] })))
const nameOf = (id: string) => props.doc.editions.find((each) => each.id === id)?.name ?? id
/** Whether this edition has it, and another one too. */
const shared = computed(() => {
  const having = editions.value.filter((each) => !each.hidden.includes(props.layer))
  return having.length > 1 && having.some((each) => each.id === props.doc.edition)
})
/** The one edition that still has it: to leave it out there too is to take it off. */
const only = computed(() => {
  const having = editions.value.filter((each) => !each.hidden.includes(props.layer))
  return having.length === 1 ? having[0]!.id : null
})
function show(edition: (typeof editions.value)[number], shown: boolean) {
  const others = edition.hidden.filter((each) => each !== props.layer)
  emit('edit', [{ type: 'put_edition', edition: { ...edition, hidden: shown ? others : [...others, props.layer] } }])
}
const panel = ref<HTMLElement | null>(null)
const edge = ref<'in' | 'out'>('in')

watch(() => props.content, (content) => { if (!content) emit('close') })
useCommands(() => [
  ...closing('close-layer', () => emit('close'), '[data-layer-panel]'),
  { id: 'nudge-earlier', label: 'A frame earlier', keys: [','], run: () => emit('nudge', edge.value, -1) },
  { id: 'nudge-later', label: 'A frame later', keys: ['.'], run: () => emit('nudge', edge.value, 1) },
])
onMounted(() => focusFirst(panel.value))
</script>

<template>
  <section v-if="content" ref="panel" class="drawer" aria-label="Settings" data-layer-panel>
    <header>
      <h2 tabindex="-1">{{ title }}</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="!bar" class="quiet" role="status">Adding it…</p>
    <p v-else-if="bar.start === null || bar.end === null" class="quiet">Asleep: its words are cut. It comes back when they are restored.</p>
    <p v-else-if="bar.whole" class="quiet">Over the whole clip</p>
    <p v-else class="quiet time">{{ clock(bar.start) }} to {{ clock(bar.end) }}</p>
    <p v-if="bar?.note" role="status">{{ bar.note }}</p>
    <div v-if="presets" class="presets" role="group" aria-label="Begin from">
      <el-button v-for="(values, name) in presets" :key="name" size="small" @click="$emit('change', { ...content, ...values } as Content)">{{ name }}</el-button>
    </div>
    <component :is="CHOOSERS[content.kind]" v-if="CHOOSERS[content.kind]" :content="content" :doc="doc" :layer="layer" @change="$emit('change', $event)" />
    <FieldsForm v-if="fields" :values="{ ...content }" :fields="fields" @change="$emit('change', $event as Content)" @try="$emit('try', $event as Content)" />
    <component :is="PANELS[content.kind]" v-if="PANELS[content.kind]" :content="content" :fields="fields ?? {}" :doc="doc" :layer="layer" :time="time" @change="$emit('change', $event)" @edit="$emit('edit', $event)" @try="$emit('try', $event)" @ask="$emit('ask', $event)" />
    <EntranceSound v-if="fields && 'effect' in fields" :content="content as any" :fields="fields" :doc="doc" @change="$emit('change', $event)" />
    <template v-if="bar && !bar.whole">
      <div class="nudge">
        <span class="quiet">Fine-tune timing, in frames ( , and . )</span>
        <el-radio-group v-model="edge" size="small" aria-label="Edge to move">
          <el-radio-button value="in">Beginning</el-radio-button>
          <el-radio-button value="out">End</el-radio-button>
        </el-radio-group>
        <span>
          <el-button size="small" @click="$emit('nudge', edge, -1)">Earlier</el-button>
          <el-button size="small" @click="$emit('nudge', edge, 1)">Later</el-button>
          <el-button v-if="doc.beats.length" size="small" @click="$emit('ask', { ask: 'to_beats', layer, first: null, last: null })">Both to the nearest beat</el-button>
        </span>
      </div>
      <el-button size="small" :disabled="!hasWords" @click="$emit('over')">Move to the selected words</el-button>
    </template>
    <div v-if="editions.length > 1" class="nudge" role="group" aria-label="Shown in">
      <span class="quiet">Shown in</span>
      <el-checkbox v-for="each in editions" :key="each.id" size="small" :model-value="!each.hidden.includes(layer)" :label="nameOf(each.id)" :disabled="only === each.id" @change="show(each, $event as boolean)" />
      <el-button v-if="shared" size="small" @click="$emit('apart')">Change it only in {{ nameOf(doc.edition) }}</el-button>
    </div>
    <el-button size="small" @click="$emit('remove')">Remove</el-button>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 14px; align-items: flex-start; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; gap: 8px; align-items: center; justify-content: space-between; width: 100%; }
h2 { overflow: hidden; text-overflow: ellipsis; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
.presets { display: flex; flex-wrap: wrap; gap: 6px; }
.nudge { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; font-size: 13px; }
.drawer .el-button { margin-left: 0; }
</style>
