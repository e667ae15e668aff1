<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import { active, cancelJob } from '@/shared/jobs'
import JobLine from '@/shared/JobLine.vue'
import DraftText from '@/shared/DraftText.vue'
import DraftSettings from './DraftSettings.vue'
import { flipped, moved, reworded, said } from './sentences'
import { useDraftOf, type Sentence } from './useDrafts'

/** The sentences of a text: kept or left out, as they are written and as they are said; and the clip that is made of them. */
const props = defineProps<{ id: string }>()
const router = useRouter()
const mine = useDraftOf(() => props.id)
const { draft, change } = mine
const at = ref(0)
const kept = computed(() => draft.value?.sentences.filter((each) => each.kept).length ?? 0)
/** What is under way, or went wrong: the one that matters now. */
const job = computed(() => draft.value?.jobs.find(active) ?? draft.value?.jobs.find((each) => each.state === 'failed' || each.state === 'cancelled'))
const working = computed(() => !!draft.value?.jobs.some(active))

const edit = (make: (sentences: Sentence[]) => Sentence[]) => void change(() => ({ sentences: make(draft.value?.sentences ?? []) }))
const flip = (n: number) => edit((all) => flipped(all, n))
function go(n: number) {
  at.value = Math.min(Math.max(n, 0), (draft.value?.sentences.length ?? 1) - 1)
  void nextTick(() => document.querySelector<HTMLElement>(`[data-sentence="${at.value}"]`)?.focus())
}
function move(by: number) {
  const from = at.value, to = from + by
  if (!draft.value || to < 0 || to >= draft.value.sentences.length) return
  edit((all) => moved(all, from, to))
  go(to)
}
const write = () => document.querySelector<HTMLElement>(`[data-sentence="${at.value}"] .said`)?.focus()

async function record() {
  const script = await mine.script()
  if (script) await router.push({ name: 'script', params: { id: script }, query: { step: 'record' } })
}
async function cancel() {
  if (job.value) await cancelJob(job.value)
  await mine.refresh()
}
useCommands(() => (draft.value ? [
  { id: 'sentence-next', label: 'The next sentence', keys: ['Down'], run: () => go(at.value + 1) },
  { id: 'sentence-before', label: 'The sentence before', keys: ['Up'], run: () => go(at.value - 1) },
  { id: 'sentence-flip', label: 'Keep the sentence, or leave it out', keys: ['X'], run: () => flip(at.value) },
  { id: 'sentence-write', label: 'Change how it is said', keys: ['Enter'], run: write },
  { id: 'sentence-up', label: 'Move the sentence up', keys: ['Alt+Up'], run: () => move(-1) },
  { id: 'sentence-down', label: 'Move the sentence down', keys: ['Alt+Down'], run: () => move(1) },
  { id: 'make-draft', label: 'Make the clip', keys: ['Ctrl+Enter'], enabled: () => !working.value && kept.value > 0, why: 'Keep at least one sentence.', run: () => void mine.make() },
] : []))
</script>

<template>
  <div class="page">
    <Teleport defer to="#crumbs"><RouterLink :to="{ name: 'drafts' }">From a text</RouterLink> <h1 class="title">{{ draft?.title }}</h1></Teleport>
    <p v-if="mine.query.error.value && !draft" class="alarm none" role="alert">{{ mine.query.error.value.message }}</p>
    <div v-else-if="draft" class="draft">
      <section aria-label="Sentences">
        <p class="quiet hint">What is ticked is said, in this order. Arrows go through the sentences, X keeps one or leaves it out, Enter changes how it is said, Alt with the arrows moves it.</p>
        <ol>
          <li v-for="(each, n) in draft.sentences" :key="n" :class="[each.kind, { out: !each.kept, now: n === at }]" :data-sentence="n" tabindex="-1" @focusin="at = n">
            <input type="checkbox" class="box" :checked="each.kept" :aria-label="`Keep: ${each.text}`" @change="flip(n)">
            <div class="words">
              <p class="written">{{ each.text }}</p>
              <DraftText :value="each.said" class="said" :class="{ same: said(each) }" :aria-label="`How it is said: ${each.text}`" maxlength="400" @keep="edit((all) => reworded(all, n, $event))" />
            </div>
            <span class="time quiet">{{ each.seconds.toFixed(1) }} s</span>
          </li>
        </ol>
      </section>
      <aside aria-label="The clip">
        <p class="long" :class="{ over: draft.too_long }"><b>{{ kept }}</b> of {{ draft.sentences.length }} sentences, <b class="time">{{ clock(draft.lasts, false) }}</b> of {{ clock(draft.seconds, false) }}</p>
        <el-button size="small" :disabled="working" @click="mine.choose">Choose anew for this length</el-button>
        <DraftSettings :settings="draft" @change="({ narrator, ...rest }) => void change(() => ({ ...rest, ...(narrator !== undefined ? { narrator, myself: !narrator } : {}) }))" />
        <label>Title <DraftText :value="draft.title" aria-label="Title" maxlength="200" @keep="change(() => ({ title: $event.trim() || draft!.title }))" /></label>
        <label>Closing card <DraftText :value="draft.card" aria-label="Closing card" maxlength="160" placeholder="None" @keep="change(() => ({ card: $event }))" /></label>
        <JobLine v-if="job" :job="job" name="The clip" @cancel="cancel" @retry="mine.make" />
        <RouterLink v-if="draft.clip && !working" class="made" :to="{ name: 'sheet', params: { id: draft.clip } }">Open the clip</RouterLink>
        <template v-if="draft.narrator">
          <el-button :type="draft.clip ? undefined : 'primary'" :disabled="working || !kept" @click="mine.make">{{ draft.clip ? 'Make another clip' : 'Make the clip' }}</el-button>
          <el-button :disabled="!kept" @click="record">Record it instead…</el-button>
        </template>
        <template v-else>
          <el-button :type="draft.recorded ? undefined : 'primary'" :disabled="!kept" @click="record">Record it…</el-button>
          <el-button :type="draft.recorded ? 'primary' : undefined" :disabled="working || !draft.recorded" @click="mine.make">Make the clip</el-button>
        </template>
        <p class="quiet">{{ draft.recorded ? `${draft.recorded} of ${kept} sentences are recorded.` : draft.narrator ? 'Recorded sentences take the place of the voice, one by one.' : 'Read it to the camera first; the clip is made of the best takes.' }}</p>
      </aside>
    </div>
  </div>
</template>

<style scoped>
.page { height: 100%; min-height: 0; }
.title { overflow: hidden; font-size: 15px; text-overflow: ellipsis; white-space: nowrap; }
.none { padding: 24px; }
.draft { display: grid; grid-template-columns: minmax(0, 1fr) 320px; height: 100%; min-height: 0; }
section { padding: 16px 32px 40px; overflow-y: auto; }
.hint { max-width: 760px; margin: 0 0 12px; font-size: 14px; }
ol { max-width: 860px; margin: 0; padding: 0; border-top: 1px solid var(--rule); list-style: none; }
li { display: grid; grid-template-columns: 20px minmax(0, 1fr) 56px; gap: 12px; padding: 8px 8px 8px 6px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; }
li:focus { outline: none; }
li.now { border-left-color: var(--pencil); background: var(--paper-2); }
li .box { width: 17px; height: 17px; margin-top: 5px; accent-color: var(--pencil); }
li > .time { margin-top: 4px; font-size: 13px; text-align: right; }
.written { margin: 0; font: 17px/1.5 var(--serif); }
.heading .written { font-weight: 600; }
.item .written::before { content: '•'; margin-right: 8px; color: var(--ink-2); }
.quotation .written { padding-left: 10px; border-left: 2px solid var(--rule); font-style: italic; }
.out .written { color: var(--ink-2); text-decoration: line-through; text-decoration-color: var(--rust); }
.said { width: 100%; padding: 2px 0; border: 0; border-bottom: 1px solid transparent; background: none; color: var(--ink-2); font: 14px/1.4 var(--sans); }
li:not(.now) .said.same { display: none; }
.said:focus { border-bottom-color: var(--pencil); color: var(--ink); outline: none; }
aside { display: flex; flex-direction: column; gap: 12px; padding: 16px 24px 24px; border-left: 1px solid var(--rule); overflow-y: auto; font-size: 14px; }
aside p { margin: 0; }
aside .el-button { margin: 0; }
.long { font-size: 15px; }
.long.over b:last-of-type { color: var(--rust); }
label { display: flex; flex-direction: column; gap: 4px; font-weight: 500; }
label input { padding: 6px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: inherit; font-weight: 400; }
.made { padding: 8px 0; font-weight: 600; text-align: center; border: 1px solid var(--pencil); border-radius: 4px; text-decoration: none; }
@media (width < 900px) {
  .draft { display: block; overflow-y: auto; }
  section { padding: 12px; overflow: visible; }
  aside { border-left: 0; }
}
</style>
