<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import { tokensOf } from '@/document/tokens'
import { useSelection } from '@/document/useSelection'
import TokenText from '@/document/TokenText.vue'

type Word = Schemas['Word']

/** The side page: words of any recording of the workspace, to be put into the clip. */
defineProps<{ doubtful: number; place: string }>()
const emit = defineEmits<{ close: []; add: [recording: string, first: Word, last: Word] }>()

const MOST = 400 // words of a recording on the page at once
const all = useQuery({ queryKey: ['recordings'], queryFn: () => got(api.GET('/api/recordings')) })
const ready = computed(() => (all.data.value ?? []).filter((each) => each.words_ready))
const recording = ref('')
const search = ref('')
const from = ref(0)
const page = ref<HTMLElement | null>(null)
const heading = ref<HTMLElement | null>(null)
watch(ready, (list) => { if (!recording.value && list[0]) recording.value = list[0].id }, { immediate: true })
watch(recording, () => { from.value = 0; search.value = '' })

const transcript = useQuery({
  queryKey: ['transcript', recording],
  queryFn: () => got(api.GET('/api/recordings/{recording_id}/transcript', { params: { path: { recording_id: recording.value } } })),
  enabled: () => !!recording.value,
})
const words = computed<Word[]>(() => transcript.data.value?.words ?? [])
const tokens = computed(() => tokensOf(words.value.slice(from.value, from.value + MOST), []))
const selection = useSelection(page, tokens, () => {}, { name: 'picked' })
const chosen = computed(() => selection.selected.value.flatMap((token) => (token.kind === 'word' ? [token.word] : [])))
const states = computed(() => tokens.value.map(() => ''))

/** Show the next place at which the words that are looked for stand. */
async function find() {
  const wanted = search.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (!wanted.length) return
  const plain = words.value.map((word) => word.text.toLowerCase().replace(/[^\p{L}\p{N}']/gu, ''))
  const after = chosen.value[0] ? words.value.indexOf(chosen.value[0]) + 1 : 0
  const order = [...plain.keys()].map((n) => (n + after) % plain.length)
  const at = order.find((n) => wanted.every((word, k) => plain[n + k]?.includes(word.replace(/[^\p{L}\p{N}']/gu, ''))))
  if (at === undefined) {
    selection.clear()
    return
  }
  from.value = Math.max(at - 40, 0)
  await nextTick()
  selection.select(at - from.value, at - from.value + wanted.length - 1)
  selection.element(at - from.value)?.scrollIntoView({ block: 'center' })
}

function add() {
  const [first, last] = [chosen.value[0], chosen.value.at(-1)]
  if (first && last) emit('add', recording.value, first, last)
}

const here = '[data-add-page]'
useCommands(() => [
  { id: 'close-add', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'add-left', label: 'The word before', keys: ['Left', 'Shift+Left'], where: here, run: (event) => selection.move(-1, event.shiftKey) },
  { id: 'add-right', label: 'The next word', keys: ['Right', 'Shift+Right'], where: here, run: (event) => selection.move(1, event.shiftKey) },
  { id: 'add-up', label: 'The line above', keys: ['Up', 'Shift+Up'], where: here, run: (event) => selection.move(selection.lineStep(false), event.shiftKey) },
  { id: 'add-down', label: 'The line below', keys: ['Down', 'Shift+Down'], where: here, run: (event) => selection.move(selection.lineStep(true), event.shiftKey) },
  { id: 'add-words', label: 'Add these words', keys: ['Enter'], where: here, enabled: () => chosen.value.length > 0, run: add },
  { id: 'add-find', label: 'Find in the recording', keys: ['Enter'], where: '[data-add-find]', run: () => void find() },
])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Insert words">
    <header>
      <h2 ref="heading" tabindex="-1">Insert words</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <el-select v-model="recording" aria-label="Recording" size="small" filterable>
      <el-option v-for="each in ready" :key="each.id" :label="each.title" :value="each.id" />
    </el-select>
    <form data-add-find @submit.prevent="find">
      <el-input v-model="search" size="small" placeholder="Find words" aria-label="Find words" clearable />
      <el-button size="small" native-type="submit">Find</el-button>
    </form>
    <p v-if="transcript.error.value" class="alarm" role="alert">{{ transcript.error.value.message }}</p>
    <p v-else-if="all.isFetched.value && !ready.length" class="quiet">There is no recording whose words are ready. Bring one in first.</p>
    <el-button v-if="from > 0" text size="small" @click="from = Math.max(from - MOST / 2, 0)">Earlier words</el-button>
    <div ref="page" class="words" tabindex="0" role="region" aria-label="Words of the recording" data-add-page v-on="selection.pointer">
      <TokenText :tokens="tokens" :first="0" :state="states" :doubtful="doubtful" />
    </div>
    <el-button v-if="from + MOST < words.length" text size="small" @click="from += MOST / 2">Later words</el-button>
    <footer>
      <span class="quiet">{{ chosen.length ? `${chosen.length} word${chosen.length === 1 ? '' : 's'}, ${clock(chosen.at(-1)!.end - chosen[0]!.start)}` : 'Select words' }}</span>
      <el-button type="primary" size="small" :disabled="!chosen.length" data-test="add" @click="add">Insert {{ place }}</el-button>
    </footer>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; background: var(--paper); }
header, footer { display: flex; gap: 8px; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
form { display: flex; gap: 6px; }
.words { flex: 1; min-height: 0; overflow-y: auto; font: 16px/1.55 var(--serif); user-select: none; outline-offset: 2px; }
p { margin: 0; font-size: 14px; }
footer { font-size: 13px; }
</style>
