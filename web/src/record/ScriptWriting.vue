<script setup lang="ts">
import { useLocalStorage, watchDebounced } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useShows } from '@/recordings/useShows'
import DraftText from '@/shared/DraftText.vue'
import { clock } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import Prompter from './Prompter.vue'
import { textOf, type Script } from './useScripts'

/** Writing a script, and finding out how long it takes. */
const props = defineProps<{ script: Script }>()
const emit = defineEmits<{ change: [what: Omit<Schemas['ScriptChange'], 'version'>]; record: []; read: [words: number, seconds: number] }>()

const choices = useChoices()
const shows = useShows()
const chooser = ref<HTMLInputElement | null>(null)
const text = ref(props.script.text)
const unsent = useLocalStorage(`hovvet-script:${props.script.id}`, '') // what was typed and did not get through
if (unsent.value && unsent.value !== text.value) text.value = unsent.value
watch(() => props.script.text, (now, before) => { if (text.value === before) text.value = now })
const SOON = 800 // ms without typing after which it is saved
watch(text, (now) => (unsent.value = now === props.script.text ? '' : now))
watchDebounced(text, save, { debounce: SOON })
function save() {
  if (text.value !== props.script.text) emit('change', { text: text.value })
  else unsent.value = ''
}
watch(() => props.script.version, () => { if (text.value === props.script.text) unsent.value = '' })
onBeforeUnmount(save)

const words = computed(() => props.script.lines.reduce((sum, each) => sum + each.words, 0))
const direction = computed(() => (props.script.right_to_left ? 'rtl' : 'ltr'))

async function bringIn(files: FileList | null | undefined) {
  const file = files?.[0]
  if (!file) return
  const found = await textOf(file)
  if (chooser.value) chooser.value.value = ''
  if (found) text.value = text.value.trim() ? `${text.value.trimEnd()}\n\n${found.text}` : found.text
}

const reading = ref(false)
const began = ref(0)
function readThrough() {
  began.value = performance.now()
  reading.value = true
}
function readToTheEnd() {
  reading.value = false
  emit('read', words.value, (performance.now() - began.value) / 1000)
}
</script>

<template>
  <div class="writing">
    <section class="paper" aria-label="Script">
      <DraftText class="title" :value="script.title" aria-label="Title" maxlength="200" @keep="emit('change', { title: $event.trim() || script.title })" />
      <textarea v-model="text" :dir="direction" aria-label="What is read" placeholder="Write or paste what you want to say. An empty line begins a new paragraph, or the next card." data-test="script-text"></textarea>
    </section>
    <aside aria-label="How it is read">
      <p class="long"><b>{{ words }}</b> word{{ words === 1 ? '' : 's' }}, <b class="time">{{ clock(script.seconds, false) }}</b> at {{ script.pace }} words a minute</p>
      <el-radio-group :model-value="script.kind" size="small" aria-label="Kind" @change="emit('change', { kind: $event as Script['kind'] })">
        <el-radio v-for="(name, kind) in choices?.script_kinds" :key="kind" :value="kind">{{ name }}</el-radio>
      </el-radio-group>
      <label>Pace <input type="range" :min="choices?.paces[0]" :max="choices?.paces[1]" step="5" :value="script.pace" aria-label="Words a minute" @change="emit('change', { pace: Number(($event.target as HTMLInputElement).value) })"></label>
      <el-button size="small" :disabled="!words" @click="readThrough">Read it through once…</el-button>
      <p class="quiet">Read aloud at your own speed, and press “Done” at the end: that is your pace.</p>
      <label>Show
        <select :value="script.show ?? ''" aria-label="Show" @change="emit('change', { show: ($event.target as HTMLSelectElement).value || null })">
          <option value="">No show</option>
          <option v-for="each in shows.query.data.value" :key="each.id" :value="each.id">{{ each.name }}</option>
        </select>
      </label>
      <el-button size="small" @click="chooser?.click()">Add from a file…</el-button>
      <input ref="chooser" type="file" :accept="choices?.script_files.join(',')" hidden data-test="script-file" @change="bringIn(chooser?.files)">
      <el-button type="primary" :disabled="!words" class="go" @click="emit('record')">Record it</el-button>
    </aside>
    <el-dialog v-model="reading" title="Read it through" append-to="main" data-own-keys width="760px">
      <Prompter v-if="reading" :script="script" :pace="script.pace" still class="through" />
      <template #footer><el-button type="primary" @click="readToTheEnd">Done</el-button></template>
    </el-dialog>
  </div>
</template>

<style scoped>
.writing { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 300px; min-height: 0; }
.paper { display: flex; flex-direction: column; padding: 24px 32px; min-height: 0; }
.title { padding: 2px 0; border: 0; border-bottom: 1px solid transparent; background: none; color: var(--ink); font: 600 24px/1.3 var(--sans); }
.title:focus { border-bottom-color: var(--pencil); outline: none; }
textarea { flex: 1; max-width: 760px; margin-top: 12px; padding: 12px 16px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: 19px/1.65 var(--serif); resize: none; }
aside { display: flex; flex-direction: column; gap: 12px; align-items: flex-start; padding: 24px; border-left: 1px solid var(--rule); overflow-y: auto; font-size: 14px; }
aside p { margin: 0; }
aside .el-button { margin: 0; }
.long { font-size: 15px; }
.el-radio-group { display: flex; flex-direction: column; align-items: flex-start; }
label:not(.el-radio) { display: flex; gap: 8px; align-items: center; width: 100%; }
label input, label select { flex: 1; min-width: 0; }
select { padding: 4px 6px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); }
.go { margin-top: auto !important; }
.through { height: 56vh; }
@media (width < 900px) { .writing { display: block; overflow-y: auto; } .paper { padding: 12px; } textarea { min-height: 300px; } aside { border-left: 0; } }
</style>
