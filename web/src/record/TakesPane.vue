<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { sureToDelete } from '@/shared/ask'
import { clock } from '@/shared/format'
import { active } from '@/shared/jobs'
import { chosenOf, type Chosen } from './together'
import type { ReadingOut, Script, Take } from './useScripts'

/** The takes of a script, what was said beside what is written, and a clip put together from the best of each line. */
const props = defineProps<{ script: Script; beside: Schemas['Beside'] | null; clipOf: (chosen: Schemas['Chosen'][]) => Promise<Schemas['DocumentOut'] | void> }>()
const emit = defineEmits<{ change: [take: Take, what: Schemas['TakeChange']]; remove: [take: Take]; again: [line: number] }>()
const router = useRouter()

const own = ref<Record<number, number>>({}) // what a person chose for a line: the place of a reading, or -1 to leave it out
watch(() => props.beside, () => (own.value = {}))
const lines = computed(() => chosenOf(props.script, props.beside, own.value))
const at = ref(0) // the line at hand
const take = (id: string) => props.script.takes.find((each) => each.id === id)
const numberOf = (id: string) => take(id)?.number ?? 0
const missing = computed(() => lines.value.filter((each) => each.chosen === null && !each.leftOut).length)
const ready = computed(() => lines.value.some((each) => each.chosen))

const film = ref<HTMLVideoElement | null>(null)
const seen = ref<{ take: string; until: number } | null>(null)
let rest: ReadingOut[] = []
const source = computed(() => (seen.value ? `/api/recordings/${seen.value.take}/files/working` : ''))

/** Play readings one after the other, or a whole take. */
async function play(what: ReadingOut[]) {
  const [first, ...others] = what
  if (!first) return
  rest = others
  await show(first.take, first.reading.start, first.reading.end)
}
async function show(id: string, start: number, until: number) {
  seen.value = { take: id, until }
  await nextTick()
  const player = film.value!
  if (player.readyState < 1) await new Promise((done) => player.addEventListener('loadedmetadata', done, { once: true }))
  player.currentTime = Math.max(start - 0.1, 0)
  await player.play().catch(() => {})
}
function watchTime() {
  if (!film.value || !seen.value || film.value.currentTime < seen.value.until + 0.12) return
  if (rest.length) void play(rest)
  else film.value.pause()
}

const select = (line: Chosen, place: number) => (own.value = { ...own.value, [line.n]: place })
function another(by: number) {
  const line = lines.value[at.value]
  if (!line?.readings.length) return
  const now = line.readings.findIndex((each) => each.place === line.place)
  const next = line.readings[(now + by + line.readings.length) % line.readings.length]!
  select(line, next.place)
  void play([next.read])
}
function step(by: number) {
  at.value = Math.min(Math.max(at.value + by, 0), lines.value.length - 1)
  void nextTick(() => document.querySelector(`[data-take-line="${at.value}"]`)?.scrollIntoView({ block: 'nearest' }))
}
const leaveOut = (line: Chosen) => select(line, line.leftOut ? line.suggested : -1)

const making = ref(false)
async function make() {
  making.value = true
  const chosen = lines.value.flatMap(({ chosen }) => (chosen ? [{ take: chosen.take, first: chosen.reading.first, last: chosen.reading.last }] : []))
  const clip = await props.clipOf(chosen)
  making.value = false
  if (clip) await router.push({ name: 'sheet', params: { id: clip.id } })
}
const star = (which: Take) => emit('change', which, { starred: !which.starred })
async function rename(which: Take) {
  const given = await ElMessageBox.prompt('Name', `Rename take ${which.number}`, { inputValue: which.name, confirmButtonText: 'Rename', cancelButtonText: 'Cancel' }).catch(() => null)
  const name = given?.value.trim()
  if (name) emit('change', which, { name })
}
async function remove(which: Take) {
  if (await sureToDelete(`Delete take ${which.number}?`, 'Its film is removed, and this cannot be undone. Clips that show it stay, without it.')) emit('remove', which)
}

useCommands(() => [
  { id: 'take-line-before', label: 'The line before', keys: ['Up'], run: () => step(-1) },
  { id: 'take-line-after', label: 'The next line', keys: ['Down'], run: () => step(1) },
  { id: 'take-next', label: 'The next reading of this line', keys: ['Right'], run: () => another(1) },
  { id: 'take-before', label: 'The reading of this line before', keys: ['Left'], run: () => another(-1) },
  { id: 'take-hear', label: 'See and hear the reading', keys: ['Space'], run: () => void play(lines.value[at.value]?.chosen ? [lines.value[at.value]!.chosen!] : []) },
  { id: 'take-hear-all', label: 'See and hear all from here on', keys: ['P'], run: () => void play(lines.value.slice(at.value).flatMap((each) => each.chosen ?? [])) },
  { id: 'take-leave-out', label: 'Leave this line out, or take it in again', keys: ['Delete'], run: () => { const line = lines.value[at.value]; if (line) leaveOut(line) } },
  { id: 'take-again', label: 'Record again from this line', keys: ['A'], run: () => emit('again', at.value) },
  { id: 'take-star', label: 'Star the take of this line', keys: ['S'], run: () => { const own = take(lines.value[at.value]?.chosen?.take ?? ''); if (own) star(own) } },
  { id: 'take-clip', label: 'Make the clip of these', keys: ['Ctrl+Enter'], run: () => void make(), enabled: () => ready.value && !making.value },
])
const pane = ref<HTMLElement | null>(null)
onMounted(() => pane.value?.focus()) // its keys are at hand
</script>

<template>
  <div class="takes">
    <aside aria-label="Takes">
      <video ref="film" :src="source || undefined" :class="{ none: !seen }" playsinline controls @timeupdate="watchTime"></video>
      <ul>
        <li v-for="each in script.takes" :key="each.id" data-test="take">
          <button class="star" :class="{ starred: each.starred }" :aria-pressed="each.starred" :aria-label="`Star take ${each.number}`" @click="star(each)">{{ each.starred ? '★' : '☆' }}</button>
          <button class="link" :disabled="!each.playable" @click="(rest = []), show(each.id, 0, 1e9)">Take {{ each.number }}</button>
          <span class="quiet">{{ each.duration ? clock(each.duration, false) : '' }}<template v-if="each.line"> from line {{ each.line + 1 }}</template></span>
          <span class="own">
            <RouterLink :to="{ name: 'desk', params: { id: each.id } }">Desk</RouterLink>
            <button class="link" @click="rename(each)">Rename…</button>
            <button class="link" @click="remove(each)">Delete…</button>
          </span>
          <span v-if="each.name !== `${script.title}, take ${each.number}`" class="name">{{ each.name }}</span>
          <span v-if="!each.ready" class="quiet state" role="status">{{ each.jobs.find((job) => job.error)?.error || each.jobs.find(active)?.stage || 'Being prepared…' }}</span>
        </li>
      </ul>
      <p v-if="!script.takes.length" class="quiet">No takes yet.</p>
    </aside>
    <section ref="pane" class="lines" tabindex="-1" aria-label="What was said, beside the script">
      <p v-if="!script.takes.length" class="empty">Nothing is recorded yet. <button class="link" @click="emit('again', 0)">Record the script</button></p>
      <p v-else-if="!beside" class="quiet" role="status">The words of your takes are being found. They appear here beside the script.</p>
      <ol v-else>
        <li v-for="line in lines" :key="line.n" :class="{ at: line.n === at, out: line.leftOut }" :data-take-line="line.n" @click="at = line.n">
          <p class="written" :dir="script.right_to_left ? 'rtl' : 'ltr'">{{ line.text }}</p>
          <p v-if="!line.readings.length" class="warn">Not read in any take. <button class="link" @click.stop="emit('again', line.n)">Record again from here</button></p>
          <div v-else role="radiogroup" :aria-label="`Reading of line ${line.n + 1}`" class="readings">
            <label v-for="each in line.readings" :key="each.place" :class="{ chosen: each.place === line.place }">
              <input type="radio" :name="`line-${line.n}`" :checked="each.place === line.place" :value="each.place" @change="select(line, each.place), play([each.read])">
              <b>Take {{ numberOf(each.read.take) }}</b>
              <span class="said"><template v-for="(token, k) in each.read.reading.tokens" :key="k"><span :class="token.said.replace(' ', '-')" :title="token.said">{{ token.text }}</span>{{ ' ' }}</template></span>
              <span class="quiet">{{ clock(each.read.reading.end - each.read.reading.start) }}<template v-if="each.read.reading.halts">, {{ each.read.reading.halts }} halt{{ each.read.reading.halts === 1 ? '' : 's' }}</template><template v-if="each.read.looks_away">, looks away</template><template v-if="each.place === line.suggested">, suggested</template></span>
              <button class="link" :aria-label="`Hear take ${numberOf(each.read.take)} of line ${line.n + 1}`" @click.prevent="play([each.read])">Hear</button>
            </label>
          </div>
          <span v-if="line.n === at" class="ways">
            <button class="link" @click.stop="emit('again', line.n)">Record again from here</button>
            <button v-if="line.readings.length" class="link" @click.stop="leaveOut(line)">{{ line.leftOut ? 'Take it in again' : 'Leave it out' }}</button>
          </span>
        </li>
      </ol>
      <div v-if="beside" class="bar">
        <el-button type="primary" size="large" :disabled="!ready" :loading="making" @click="make">Make the clip</el-button>
        <el-button :disabled="!ready" @click="play(lines.flatMap((each) => each.chosen ?? []))">Hear it all</el-button>
        <span v-if="missing" class="warn">{{ missing }} line{{ missing === 1 ? ' is' : 's are' }} not read in any take, and will be missing.</span>
        <span v-if="beside.waits" class="quiet" role="status">The words of {{ beside.waits === 1 ? 'one take' : `${beside.waits} takes` }} are still being found.</span>
      </div>
    </section>
  </div>
</template>

<style scoped>
.takes { display: grid; flex: 1; grid-template-columns: 320px minmax(0, 1fr); min-height: 0; }
aside { display: flex; flex-direction: column; gap: 12px; padding: 16px; border-right: 1px solid var(--rule); overflow-y: auto; font-size: 14px; }
video { width: 100%; border-radius: 4px; background: #14171c; aspect-ratio: 16 / 9; }
video.none { visibility: hidden; height: 0; aspect-ratio: auto; }
aside ul, ol { margin: 0; padding: 0; list-style: none; }
aside li { display: flex; flex-wrap: wrap; gap: 4px 10px; align-items: baseline; padding: 6px 0; border-bottom: 1px solid var(--rule); }
.state, .name, .own { flex-basis: 100%; }
.own { display: flex; gap: 12px; padding-left: 34px; font-size: 13px; }
.star { border: 0; background: none; color: var(--ink-2); font-size: 18px; line-height: 1; cursor: pointer; }
.starred { color: var(--rust-text); }
.lines { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.lines:focus { outline: none; }
.lines > p { padding: 24px; }
ol { flex: 1; overflow-y: auto; }
ol > li { padding: 12px 24px; border-bottom: 1px solid var(--rule); }
.at { background: #fff; box-shadow: inset 3px 0 var(--pencil); }
.out .written { text-decoration: line-through; }
.written { margin: 0 0 4px; font: 18px/1.5 var(--serif); }
.readings { display: flex; flex-direction: column; gap: 2px; font-size: 14px; }
.readings label { display: grid; grid-template-columns: auto 56px minmax(0, 1fr) auto auto; gap: 8px; align-items: baseline; padding: 3px 6px; border-radius: 4px; cursor: pointer; }
.readings .chosen { background: var(--paper-2); }
.left-out { color: var(--rust-text); text-decoration: line-through; }
.added, .otherwise { border-bottom: 2px solid var(--marigold); }
.filler { color: var(--ink-2); font-style: italic; }
.ways { display: flex; gap: 14px; margin-top: 4px; font-size: 13px; }
.warn { margin: 0; color: var(--rust-text); font-size: 14px; }
.bar { display: flex; flex-wrap: wrap; gap: 8px 14px; align-items: center; padding: 10px 24px; border-top: 1px solid var(--rule); }
.bar .el-button { margin: 0; }
@media (width < 900px) { .takes { display: block; overflow-y: auto; } aside { border-right: 0; } .readings label { grid-template-columns: 20px 56px minmax(0, 1fr); } }
</style>
