<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import RunningWords from '@/shared/RunningWords.vue'
import { tell, tellError } from '@/shared/tell'
import CommentCard from './CommentCard.vue'
import { useReview } from './useReview'

type Word = Schemas['SaidWord']

/** A clip as a colleague sees it, by a link and without an account: watched, read along, commented on, approved. */
const props = defineProps<{ token: string }>()
const { name, review, error, unlock, say, resolve, judge, film, captions } = useReview(toRef(props, 'token'))

const at = ref(0) // which of the films
const item = computed(() => review.value?.items[Math.min(at.value, (review.value?.items.length ?? 1) - 1)] ?? null)
const video = ref<HTMLVideoElement | null>(null)
const time = ref(0)
const password = ref('')
const text = ref('')
const about = ref<[Word, Word] | null>(null)
const place = ref<{ x: number; y: number } | null>(null)
const chosen = ref<string | null>(null)
const busy = ref(false)
const pointing = ref(false)
const playing = ref(false)

const words = computed(() => (item.value?.words ?? []).flatMap((each) => each.words))
const here = computed(() => words.value.findLast((word) => word.start <= time.value + 0.02) ?? null)
const marked = computed(() => new Set((item.value?.comments ?? []).filter((each) => !each.resolved && each.first != null).flatMap((each) => Array.from({ length: each.last! - each.first! + 1 }, (_, n) => each.first! + n))))
const open = computed(() => (item.value?.comments ?? []).filter((each) => !each.resolved))
const done = computed(() => (item.value?.comments ?? []).filter((each) => each.resolved))
const subject = computed(() => {
  const of = about.value ?? (here.value ? [here.value, here.value] as const : null)
  return of ? (of[0].n === of[1].n ? `“${of[0].text}”, ${clock(of[0].start)}` : `“${of[0].text} … ${of[1].text}”, ${clock(of[0].start)}`) : 'the clip'
})
watch(() => item.value?.id, () => {
  about.value = null
  place.value = null
  chosen.value = null
  time.value = 0
})

const tick = () => { time.value = video.value?.currentTime ?? 0 }
function seek(to: number) {
  if (video.value) video.value.currentTime = Math.max(to, 0)
  time.value = to
}
const toggle = () => void (video.value?.paused ? video.value.play() : video.value?.pause())

/** A word is gone to; the next one that is pressed with Shift makes it a stretch. */
function press(seconds: number, word: Word) {
  const first = about.value?.[0]
  about.value = shifted && first ? (first.n <= word.n ? [first, word] : [word, first]) : [word, word]
  video.value?.pause()
  seek(seconds)
}
let shifted = false
const hold = (event: MouseEvent) => { shifted = event.shiftKey }

function point(event: MouseEvent) {
  if (!pointing.value) return toggle()
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  place.value = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  pointing.value = false
  video.value?.pause()
}

async function act(work: () => Promise<unknown>, told = '') {
  busy.value = true
  try {
    await work()
    if (told) tell(told)
  } catch (problem) {
    tellError(problem)
  } finally {
    busy.value = false
  }
}

const named = computed(() => name.value.trim().length > 0)
const send = () => act(async () => {
  const of = about.value ?? (here.value ? [here.value, here.value] as const : null)
  await say(item.value!, { text: text.value.trim(), words: of ? [of[0].n, of[1].n] : null, seconds: place.value ? time.value : null, place: place.value, answers: null })
  text.value = ''
  about.value = null
  place.value = null
}, 'Your comment is there.')
const give = (says: Schemas['Judging']['says']) => act(() => judge(item.value!, says), says === 'approved' ? 'Approved. Whoever asked is told.' : 'Whoever asked sees that you want changes.')

function walk(by: number) {
  const all = open.value
  const now = all.findIndex((each) => each.id === chosen.value)
  const next = all[Math.min(Math.max(now + by, 0), all.length - 1)]
  if (next) choose(next.id, next.start ?? null)
}
function choose(id: string, start: number | null) {
  chosen.value = chosen.value === id ? null : id
  if (start != null) seek(start)
}

useCommands(() => [
  { id: 'review-play', label: 'Play', keys: ['Space'], run: toggle },
  { id: 'review-back', label: '5 s back', keys: ['Left'], run: () => seek(time.value - 5) },
  { id: 'review-on', label: '5 s on', keys: ['Right'], run: () => seek(time.value + 5) },
  { id: 'review-next', label: 'The next comment', keys: ['Down'], run: () => walk(1) },
  { id: 'review-before', label: 'The comment before', keys: ['Up'], run: () => walk(-1) },
])
</script>

<template>
  <div class="page">
    <div v-if="error" class="alone"><h1>Hovvet</h1><p role="alert">{{ error.message }}</p></div>
    <p v-else-if="!review" class="alone quiet" role="status">Reading…</p>
    <form v-else-if="review.locked" class="alone" @submit.prevent="act(() => unlock(password))">
      <h1>A clip from {{ review.by }}</h1>
      <label>Password <el-input v-model="password" type="password" :maxlength="200" aria-label="Password" data-test="review-password" /></label>
      <el-button type="primary" native-type="submit" :disabled="!password || busy">Open</el-button>
    </form>
    <template v-else-if="item">
      <header>
        <h1>{{ review.title }}</h1>
        <span class="quiet">{{ review.by }} asks for your opinion</span>
        <nav v-if="review.items.length > 1" aria-label="Films">
          <el-button v-for="(each, n) in review.items" :key="each.id" size="small" :type="n === at ? 'primary' : undefined" :aria-pressed="n === at" @click="at = n">{{ each.name }}</el-button>
        </nav>
      </header>
      <section class="film" aria-label="Film">
        <div class="frame" :class="{ pointing }" :style="{ '--shape': item.width / item.height }" @click="point">
          <video ref="video" :key="`${item.id} ${item.version}`" :src="film(item)" playsinline preload="metadata" @timeupdate="tick" @seeked="tick" @play="playing = true" @pause="playing = false"><track kind="captions" :src="captions(item)" srclang="en" label="Captions"></video>
          <i v-if="place" class="point" :style="{ left: `${place.x * 100}%`, top: `${place.y * 100}%` }"></i>
        </div>
        <div class="transport">
          <el-button @click="toggle">{{ playing ? 'Pause' : 'Play' }}</el-button>
          <input type="range" aria-label="Where you are" :min="0" :max="item.seconds" step="0.1" :value="time" @input="seek(Number(($event.target as HTMLInputElement).value))">
          <span class="time">{{ clock(time) }}</span>
        </div>
        <p class="quiet version">Version {{ item.version }}<template v-if="review.download">, <a :href="film(item, true)" download>save the film</a></template></p>
      </section>
      <section class="words" aria-label="What is said" tabindex="0" @click.capture="hold">
        <RunningWords :paragraphs="item.words" :time="time" :marked="marked" @go="press" />
      </section>
      <section class="talk" aria-label="Comments">
        <label class="you">Your name <el-input v-model="name" size="small" :maxlength="80" aria-label="Your name" data-test="reviewer" /></label>
        <form class="new" @submit.prevent="send">
          <el-input v-model="text" type="textarea" :autosize="{ minRows: 2, maxRows: 6 }" :maxlength="4000" :placeholder="`About ${subject}`" aria-label="Your comment" />
          <div class="ways">
            <el-button type="primary" native-type="submit" :disabled="!named || !text.trim() || busy" :title="named ? '' : 'Type your name first'">Comment</el-button>
            <el-button :aria-pressed="pointing" @click="pointing = !pointing">{{ pointing ? 'Press the picture' : place ? 'Another place' : 'At a place in the picture' }}</el-button>
          </div>
        </form>
        <ul>
          <CommentCard v-for="each in open" :key="each.id" :comment="each" :chosen="each.id === chosen" :can-answer="named" @choose="choose(each.id, each.start ?? null)" @answer="act(() => say(item!, { text: $event, answers: each.id, words: null, seconds: null, place: null }))" @resolve="act(() => resolve(item!, each, $event))" />
        </ul>
        <details v-if="done.length"><summary>Done ({{ done.length }})</summary>
          <ul><CommentCard v-for="each in done" :key="each.id" :comment="each" :chosen="each.id === chosen" :can-answer="named" @choose="choose(each.id, each.start ?? null)" @answer="act(() => say(item!, { text: $event, answers: each.id, words: null, seconds: null, place: null }))" @resolve="act(() => resolve(item!, each, $event))" /></ul>
        </details>
        <div class="verdict" role="group" aria-label="What you think of it">
          <p v-if="item.verdict" data-test="verdict"><b>{{ item.verdict.says === 'approved' ? 'Approved' : 'Changes wanted' }}</b> by {{ item.verdict.name }}</p>
          <el-button type="success" :disabled="!named || busy" @click="give('approved')">Approve</el-button>
          <el-button :disabled="!named || busy" @click="give('changes wanted')">Changes wanted</el-button>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.page { display: grid; grid-template: auto minmax(0, 1fr) / minmax(240px, 420px) minmax(0, 1fr) minmax(280px, 380px); gap: 0 24px; height: 100%; padding: 0 20px 16px; overflow: hidden; }
.alone { display: flex; flex-direction: column; grid-column: 1 / -1; gap: 14px; align-items: flex-start; max-width: 420px; margin: 12vh auto; }
header { display: flex; flex-wrap: wrap; grid-column: 1 / -1; gap: 4px 14px; align-items: baseline; padding: 14px 0; }
h1 { margin: 0; font-size: 20px; }
nav { display: flex; gap: 6px; margin-left: auto; }
nav .el-button { margin: 0; }
.film { display: flex; flex-direction: column; gap: 8px; min-height: 0; overflow-y: auto; }
/* Just as large as the film: a place in it is told in shares of it. */
.frame { position: relative; flex: none; width: min(100%, 68vh * var(--shape)); aspect-ratio: var(--shape); background: var(--ink); cursor: pointer; }
.frame.pointing { cursor: crosshair; outline: 3px solid var(--pencil); }
video { display: block; width: 100%; height: 100%; }
.point { position: absolute; width: 16px; height: 16px; border: 3px solid var(--marigold); border-radius: 50%; box-shadow: 0 0 0 1px var(--ink); transform: translate(-50%, -50%); pointer-events: none; }
.transport { display: grid; grid-template-columns: auto 1fr auto; gap: 10px; align-items: center; }
.transport input { width: 100%; accent-color: var(--pencil); }
.version { margin: 0; font-size: 13px; }
.words { overflow-y: auto; }
.talk { display: flex; flex-direction: column; gap: 10px; min-height: 0; overflow-y: auto; }
.you { display: grid; grid-template-columns: auto 1fr; gap: 8px; align-items: center; font-size: 14px; }
.new { display: flex; flex-direction: column; gap: 6px; }
.ways, .verdict { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.ways .el-button, .verdict .el-button { margin: 0; }
.verdict { padding-top: 10px; border-top: 1px solid var(--rule); }
.verdict p { width: 100%; margin: 0; font-size: 14px; }
ul { margin: 0; padding: 0; list-style: none; }
summary { font-size: 14px; cursor: pointer; }
@media (width < 900px) {
  .page { display: flex; flex-direction: column; gap: 12px; padding: 0 12px 16px; overflow-y: auto; }
  .page > * { flex: none; overflow: visible; }
  .frame { align-self: center; width: min(100%, 56vh * var(--shape)); }
  .words { max-height: 34vh; overflow-y: auto; }
}
</style>
