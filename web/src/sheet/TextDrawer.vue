<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { active } from '@/shared/jobs'
import { tell, tellError } from '@/shared/tell'

/** The text that a clip was made of, sentence by sentence: said otherwise by its voice, or by what people have recorded of it. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; go: [piece: string]; changed: []; put: [doc: Promise<Doc>] }>()
const SOON = 700 // ms after which it is asked again while something is being spoken

const client = useQueryClient()
const key = computed(() => ['draft-of', props.doc.id, props.doc.version])
const params = () => ({ path: { document_id: props.doc.id } })
const query = useQuery({
  queryKey: key,
  queryFn: () => got(api.GET('/api/drafts/clips/{document_id}', { params: params() })),
  placeholderData: (before) => before,
  refetchInterval: (state) => (state.state.data?.jobs.some(active) ? SOON : false),
})
const all = computed(() => query.data.value?.sentences ?? [])
const working = computed(() => query.data.value?.jobs.find(active))
const failed = computed(() => (working.value ? undefined : query.data.value?.jobs.find((each) => each.state === 'failed')))
watch(working, (now, before) => { if (before && !now) emit('changed') })

const at = ref(0)
const texts = ref<Record<string, string>>({}) // what is being written instead, by piece
const own = computed(() => all.value[at.value])
const heading = ref<HTMLElement | null>(null)
function walk(to: number) {
  at.value = Math.min(Math.max(to, 0), Math.max(all.value.length - 1, 0))
  if (own.value) emit('go', own.value.piece)
  void nextTick(() => document.querySelector(`[data-said="${at.value}"]`)?.scrollIntoView({ block: 'nearest' }))
}
const write = () => document.querySelector<HTMLElement>(`[data-said="${at.value}"] textarea`)?.focus()
const written = (each: Schemas['SentenceAt']) => texts.value[each.piece] ?? each.text
async function say(each: Schemas['SentenceAt']) {
  const text = written(each).trim()
  if (!text || text === each.text || working.value) return
  const now = await got(api.POST('/api/drafts/clips/{document_id}/otherwise', { params: params(), body: { piece: each.piece, text } })).catch(tellError)
  if (!now) return
  delete texts.value[each.piece]
  client.setQueryData(key.value, now)
}
function putRecorded() {
  emit('put', got(api.POST('/api/drafts/clips/{document_id}/recorded', { params: { ...params(), query: { edition: props.doc.edition } } })).then(({ document, sentences }) => {
    tell(`${sentences} sentence${sentences === 1 ? ' is' : 's are'} spoken by you now.`)
    return document
  }))
}
useCommands(() => [
  { id: 'close-text', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'said-next', label: 'The next sentence', keys: ['Down'], run: () => walk(at.value + 1) },
  { id: 'said-before', label: 'The sentence before', keys: ['Up'], run: () => walk(at.value - 1) },
  { id: 'said-write', label: 'Say it otherwise', keys: ['Enter'], run: write },
  { id: 'said-speak', label: 'Have it spoken', keys: ['Ctrl+Enter'], where: '[data-said] textarea', run: () => { if (own.value) void say(own.value) } },
])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="The text">
    <header>
      <h2 ref="heading" tabindex="-1">The text</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="query.isPending.value" role="status" class="quiet">Reading the text…</p>
    <p v-else-if="query.error.value" class="quiet" role="alert">{{ query.error.value.message }} <RouterLink :to="{ name: 'drafts' }">Make a clip from a text</RouterLink></p>
    <template v-else>
      <p class="quiet">Enter rewrites a sentence, Ctrl+Enter has it spoken. Pictures and titles stay with it. <RouterLink :to="{ name: 'draft', params: { id: query.data.value!.draft } }">All of the text</RouterLink></p>
      <p v-if="working" role="status" class="status"><b>{{ working.stage || 'Starting' }}…</b> The new sentence takes its place when it is spoken.</p>
      <p v-else-if="failed" role="alert" class="alarm">{{ failed.error }}</p>
      <el-button v-if="query.data.value!.recorded" size="small" @click="putRecorded">Use what you recorded ({{ query.data.value!.recorded }} sentence{{ query.data.value!.recorded === 1 ? '' : 's' }})</el-button>
      <ol>
        <li v-for="(each, n) in all" :key="each.piece" :class="{ now: n === at }" :data-said="n" @click="n !== at && walk(n)">
          <template v-if="n === at && each.voiced">
            <textarea :value="written(each)" rows="3" :aria-label="`Say otherwise: ${each.text}`" maxlength="1000" @input="texts[each.piece] = ($event.target as HTMLTextAreaElement).value"></textarea>
            <p class="said quiet">Said: {{ each.said }}</p>
            <el-button size="small" type="primary" :disabled="!!working || written(each).trim() === each.text || !written(each).trim()" @click.stop="say(each)">Say it so</el-button>
          </template>
          <p v-else class="line">{{ each.text }}<span v-if="!each.voiced" class="quiet"> (recorded)</span></p>
        </li>
      </ol>
    </template>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
ol { margin: 0; padding: 0; list-style: none; border-top: 1px solid var(--rule); }
li { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; padding: 8px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; cursor: pointer; }
li.now { border-left-color: var(--pencil); background: var(--paper-2); }
.line { font: 15px/1.4 var(--serif); }
textarea { width: 100%; padding: 6px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: 15px/1.45 var(--serif); resize: vertical; }
.said { font-size: 13px; }
.drawer > .el-button { align-self: flex-start; }
</style>
