<script setup lang="ts">
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, got, type Schemas } from '@/api/client'
import CommandButton from '@/commands/CommandButton.vue'
import { useCommands } from '@/commands/registry'
import BringInLine from '@/components/BringInLine.vue'
import FindBar from '@/components/FindBar.vue'
import HistoryDrawer from '@/components/HistoryDrawer.vue'
import Occurrences from '@/components/Occurrences.vue'
import ChaptersPanel from '@/components/ChaptersPanel.vue'
import PassagesPanel from '@/components/PassagesPanel.vue'
import SpeakersPanel from '@/components/SpeakersPanel.vue'
import Spine from '@/components/Spine.vue'
import SweepPanel from '@/components/SweepPanel.vue'
import TermsPanel from '@/components/TermsPanel.vue'
import TranscriptPage from '@/components/TranscriptPage.vue'
import Transport from '@/components/Transport.vue'
import { clock } from '@/composables/format'
import { tellError } from '@/composables/tell'
import { changed, reading, type Word } from '@/composables/transcript'
import { useChapters } from '@/composables/useChapters'
import { useChoices } from '@/composables/useChoices'
import { useCorrecting } from '@/composables/useCorrecting'
import { useCutting } from '@/composables/useCutting'
import { useDocument, type Finding } from '@/composables/useDocument'
import { useHearing } from '@/composables/useHearing'
import { useHouse } from '@/composables/useHouse'
import { useMakingClips } from '@/composables/useMakingClips'
import { usePassages, type Passage } from '@/composables/usePassages'
import { usePlayer, type Source } from '@/composables/usePlayer'
import { useMediaQuery } from '@vueuse/core'
import { busy, cancelJob, jobsOf, prepareAgain, useRecording } from '@/composables/useRecording'
import { toOutput } from '@/player/timeline'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const { recording, transcript, setTranscript, reread, refresh } = useRecording(id)

// An edit may have changed the words as well: it says how, or the page reads them anew.
const sheet = useDocument((doc) => {
  const { words } = doc
  const at = transcript.data.value?.words_at
  if (words && words.before === at) setTranscript((before) => changed(before, words))
  else if (doc.words_at !== at) void reread()
}, () => void reread())
const { doc, sweep, correct } = sheet
const choices = useChoices()
const { houses } = useHouse()
const fixing = useCorrecting(id, sheet)

const page = ref<InstanceType<typeof TranscriptPage> | null>(null)
const finder = ref<InstanceType<typeof FindBar> | null>(null)
const picture = ref<HTMLCanvasElement | null>(null)
const TABS = [['sweep', 'Sweep'], ['passages', 'Passages'], ['speakers', 'Speakers'], ['terms', 'Names & terms'], ['clips', 'Clips']] as const
const route = useRoute()
const tab = ref<(typeof TABS)[number][0]>(TABS.find(([key]) => route.hash === `#${key}`)?.[0] ?? 'sweep')
const finding = ref(false)
const found = ref<[number, number][]>([])

const now = computed(() => recording.data.value)
const sources = computed<Source[]>(() => {
  const media = now.value?.media
  if (!now.value?.playable || !media) return []
  return [{ id: props.id, title: now.value.title, duration: now.value.duration, has_picture: media.has_picture, width: media.width ?? 0, height: media.height ?? 0, playable: true }]
})
const shape = computed(() => {
  const media = now.value?.media
  return media?.has_picture && media.height ? (media.width ?? 16) / media.height : 16 / 9
})
const { plan, follow } = useHearing(sheet.plan)
const player = usePlayer({ plan, sources, picture })
const hearAround = follow(player)
const passages = usePassages(id, computed(() => !!now.value?.words_ready))
const chapters = useChapters(id, computed(() => !!now.value?.words_ready))
watch(() => passages.found.value?.state, (state) => { if (state === 'done') void chapters.refetch() })
const passage = ref('') // the one that is looked at
const marked = computed(() => passages.shown.value.filter((each) => each.state === 'waiting' || each.id === passage.value).map(({ id, start, end, titles }) => ({ id, start, end, title: titles[0] ?? '', current: tab.value === 'passages' && id === passage.value })))
watch([passage, tab], () => {
  const own = tab.value === 'passages' && passages.shown.value.find((each) => each.id === passage.value)
  if (own) page.value?.reveal(own.start)
})
function hearPassage({ start, end }: Passage) {
  void hearAround(start, end)
}
const { chosen } = useCutting(sheet, page, player.toggle)
const narrow = useMediaQuery('(width < 900px)')
const panel = ref(false) // where there is no room for it beside the page, the panel is a drawer
const history = ref(false)

async function readDesk() {
  try {
    sheet.opened(await got(api.GET('/api/documents/desk/{recording_id}', { params: { path: { recording_id: props.id } } })))
    await nextTick()
    if (document.activeElement === document.body || document.activeElement?.tagName === 'MAIN') page.value?.focus()
  } catch (error) {
    tellError(error)
  }
}
watch(
  () => transcript.data.value?.complete && now.value?.words_ready,
  (complete) => { if (complete && !doc.value) void readDesk() },
  { immediate: true },
)
// Speakers are suggested by a job: when it is done, what it did is read.
watch(
  () => now.value?.jobs.find((job) => job.kind === 'speakers')?.state,
  (state, before) => { if (state === 'done' && before) void Promise.all([reread(), readDesk()]) },
)

const allWords = computed(() => transcript.data.value?.words ?? [])
const words = computed(() => chosen.value.flatMap((token) => (token.kind === 'word' ? [token.word] : [])))
const { clips, makeClip, madeOf, keepPart } = useMakingClips(id, words)
const limit = computed(() => choices.value?.doubtful ?? 0)
const doubts = computed(() => allWords.value.filter((word) => word.kind === 'word' && word.confidence < limit.value))

/** Go to the next doubtful word after the selection, or the one before. */
function doubt(step: 1 | -1) {
  const list = doubts.value
  const at = words.value[0]?.start ?? player.source.value
  const next = step > 0 ? list.find((word) => word.start > at + 1e-6) ?? list[0] : list.findLast((word) => word.start < at - 1e-6) ?? list.at(-1)
  if (next) page.value?.selectWords([next])
}

function give(speaker: string) {
  const spoken = page.value?.spokenBySelected() ?? []
  if (spoken.length && doc.value) void correct({ type: 'set_speaker', words: spoken.map((word) => word.id), speaker })
}

function find() {
  if (finding.value) finder.value?.focus()
  finding.value = true
}

function closeHistory() {
  history.value = false
  page.value?.focus()
}

function closeFind() {
  finding.value = false
  page.value?.focus()
}

function faster() {
  if (!player.playing.value) player.toggle()
  else player.speed.value = Math.min(player.speed.value < 1 ? 1 : player.speed.value + 0.5, 2)
}

const can = () => doc.value !== null
useCommands(() => [
  { id: 'find', label: 'Find', keys: ['Ctrl+F', 'Ctrl+G'], enabled: can, run: find },
  { id: 'correct', label: 'Correct', keys: ['Enter'], enabled: can, run: () => page.value?.edit() },
  { id: 'check-next', label: 'The next word to check', keys: ['D'], enabled: can, run: () => doubt(1) },
  { id: 'check-before', label: 'The word to check before', keys: ['Shift+D'], enabled: can, run: () => doubt(-1) },
  { id: 'back', label: 'Three seconds back', keys: ['J'], run: () => player.seekSource(Math.max(player.source.value - 3, 0)) },
  { id: 'stop', label: 'Pause', keys: ['K'], run: stop },
  { id: 'faster', label: 'Play, and faster', keys: ['L'], run: faster },
  { id: 'make-clip', label: 'Make clip', keys: ['M'], enabled: () => can() && words.value.length > 0, run: () => void makeClip() },
  ...houses.value.map(({ key, name }) => ({ id: `make-clip-${key}`, label: `Make clip, dressed in “${name}”`, enabled: () => can() && words.value.length > 0, run: () => void makeClip(key) })),
  { id: 'keep-part', label: 'Keep these words\' part on the Shelf…', keys: ['Shift+M'], enabled: () => can() && words.value.length > 0, run: () => void keepPart() },
  { id: 'history', label: 'History', keys: ['H'], enabled: can, run: () => (history.value = !history.value) },
  ...'123456789'.split('').map((digit) => ({ id: `speaker-${digit}`, label: `Speaker ${digit}`, keys: [digit], enabled: can, run: () => give(`S${digit}`) })),
])

function stop() {
  player.pause()
  player.speed.value = 1
}

/** Go to a time of the recording: the page shows it, also where it is cut. */
function goTo(seconds: number) {
  page.value?.goTo(seconds)
  void player.seekSource(seconds)
}

/** How long what is selected would be heard. */
const selected = computed(() => {
  const first = chosen.value[0]
  const last = chosen.value.at(-1)
  const now = sheet.plan.value
  return first && last && now && words.value.length > 1 ? toOutput(now, last.end) - toOutput(now, first.start) : null
})

async function hear(each: Schemas['Reviewed'], after: Finding | null) {
  try {
    const seen = after && doc.value
      ? await got(api.POST('/api/documents/{document_id}/sweep/preview', { params: { path: { document_id: doc.value.id } }, body: after }))
      : null
    await hearAround(each.find.start, each.find.end, seen?.plan ?? null)
  } catch (error) {
    tellError(error)
  }
}

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await refresh()
}

function download(kind: string) {
  window.location.assign(`/api/recordings/${props.id}/transcript.${kind}`)
}

const saved = computed(() => (doc.value ? doc.value.uncut - doc.value.seconds : 0))
const bringIn = computed(() => jobsOf(now.value, 'bringing in'))
const stopped = computed(() => bringIn.value.some((job) => job.state === 'cancelled' || job.state === 'failed'))

function rewrite(changing: Word[], text: string) {
  const texts = text.split(/\s+/)
  if (texts.length === changing.length) setTranscript((before) => reading(before, changing, texts))
  void fixing.rewrite(changing, text)
}
</script>

<template>
  <Teleport defer to="#crumbs">
    <h1 class="title">{{ now?.title }}</h1>
    <span v-if="doc" class="time quiet length" data-test="length">
      {{ clock(doc.seconds) }}<template v-if="saved > 0.05"> of {{ clock(doc.uncut) }}, {{ saved.toFixed(1) }} s saved</template>
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <span v-if="selected !== null && doc" class="time" :class="selected > doc.outlet.longest ? 'alarm' : 'quiet'" role="status" data-test="selected">
      {{ clock(selected) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
    <CommandButton id="make-clip" type="primary" :off="!words.length" why="Select a passage first" />
    <el-button v-if="narrow" :aria-expanded="panel" @click="panel = !panel">Panel</el-button>
  </Teleport>
  <div class="desk">
    <Spine
      v-if="now" class="spine-column" :duration="now.duration" :skyline="now.skyline" :plan="sheet.plan.value" :clips="clips" :passages="marked" :chapters="chapters.chapters.value" :source="player.source.value"
      :transcript="transcript.data.value ?? null" @go="goTo"
    />
    <div class="middle">
      <div class="bar" role="toolbar" aria-label="Editing">
        <CommandButton id="cut" />
        <CommandButton id="bring-back" />
        <CommandButton id="correct" :off="!words.length" why="Select the words to correct first" />
        <span class="sep" />
        <CommandButton id="undo" :off="!sheet.canUndo.value" why="Nothing to undo since you opened this; the history reaches further" />
        <CommandButton id="redo" :off="!doc?.can_redo" />
        <CommandButton id="history" text />
        <CommandButton id="find" text />
        <el-button v-if="doc && doubts.length" text title="Go to the next word the recogniser was not sure of (D; Shift+D the one before)" @click="doubt(1)">
          {{ doubts.length }} word{{ doubts.length === 1 ? '' : 's' }} to check
        </el-button>
        <span class="grow" />
        <el-dropdown trigger="click" :disabled="!doc" @command="download">
          <el-button text :disabled="!doc">Save words</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item command="txt">Text (TXT)</el-dropdown-item>
              <el-dropdown-item command="srt">Subtitles (SRT)</el-dropdown-item>
              <el-dropdown-item command="vtt">Subtitles (VTT)</el-dropdown-item>
              <el-dropdown-item command="json">Words with times (JSON)</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </div>
      <FindBar
        v-if="finding" ref="finder" :recording-id="id" :words="allWords" :words-at="transcript.data.value?.words_at ?? 0" @found="found = $event" @show="page?.selectWords($event)"
        @go="goTo" @replace="fixing.lookEverywhere" @close="closeFind"
      />
      <p v-if="fixing.last.value" class="state fix" role="status">
        Changed “{{ fixing.last.value.from }}” to “{{ fixing.last.value.to }}”.
        <el-button v-if="fixing.last.value.more.length" size="small" @click="fixing.lookEverywhere(fixing.last.value.from, fixing.last.value.to)">
          {{ fixing.last.value.more.length }} more place{{ fixing.last.value.more.length === 1 ? '' : 's' }}…
        </el-button>
        <el-button size="small" @click="fixing.addTerm">Add to names &amp; terms</el-button>
        <el-button text size="small" @click="fixing.last.value = null">Dismiss</el-button>
      </p>
      <p v-if="recording.error.value" class="state alarm" role="alert">
        {{ recording.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
      </p>
      <div v-if="now && (busy(now, ['bringing in']) || stopped)" class="state">
        <BringInLine :jobs="bringIn" :name="now.title" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(now))" />
      </div>
      <p v-if="now?.notice" class="state">{{ now.notice }}</p>
      <TranscriptPage
        v-if="transcript.data.value?.words.length" ref="page" :transcript="transcript.data.value" :doc="doc"
        :source="player.source.value" :playing="player.playing.value" :found="found" :doubtful="limit" :spoken-for="choices?.spoken_for ?? 0" :passages="marked"
        @go="player.seekSource" @selected="chosen = $event" @rewrite="rewrite" @correct="correct"
      />
      <p v-else-if="transcript.isPending.value" class="empty quiet" role="status">Reading the transcript…</p>
      <p v-else-if="now && busy(now, ['bringing in'])" class="empty quiet">The first words appear here as soon as they are heard.</p>
      <p v-else-if="transcript.data.value?.complete" class="empty quiet">There are no words in this recording.</p>
    </div>
    <div v-if="narrow && panel" class="drawer-shade" @click="panel = false"></div>
    <aside :class="{ drawer: narrow, open: panel }" aria-label="Picture and panels">
      <div v-show="!now?.media || now.media.has_picture" class="stage">
        <canvas ref="picture" width="640" :height="Math.round(640 / shape)" :style="{ aspectRatio: shape }"></canvas>
        <span v-if="now && !now.playable" class="nopicture">
          {{ stopped && !busy(now, ['bringing in']) ? 'There is no preview: preparing it was stopped. Press Resume or Retry above.' : 'The preview is being prepared…' }}
        </span>
      </div>
      <Transport
        :time="player.source.value" :length="now?.duration ?? 0" :playing="player.playing.value" :ready="player.ready.value" :speed="player.speed.value"
        :edited="saved > 0.05 ? player.time.value : null"
        @toggle="player.toggle" @seek="player.seekSource" @speed="player.speed.value = $event"
      />
      <div class="tabs" role="tablist" aria-label="Panels">
        <button v-for="[key, name] in TABS" :id="`tab-${key}`" :key="key" role="tab" :aria-selected="tab === key" aria-controls="panel" @click="tab = key">{{ name }}</button>
      </div>
      <div id="panel" class="panel" role="tabpanel" tabindex="0" :aria-labelledby="`tab-${tab}`">
        <PassagesPanel v-if="tab === 'passages'" v-model:current="passage" :passages="passages" :ready="!!now?.words_ready" @hear="hearPassage" @made="madeOf" />
        <ChaptersPanel v-if="tab === 'passages' && passages.found.value?.state === 'done'" :chapters="chapters" :source="player.source.value" @go="goTo" />
        <SweepPanel v-show="tab === 'sweep'" :doc="doc" :kinds="choices?.sweep_kinds ?? []" :sweep="sweep" @hear="hear" />
        <SpeakersPanel
          v-if="tab === 'speakers' && doc && choices && transcript.data.value" :recording-id="id" :transcript="transcript.data.value" :jobs="now?.jobs ?? []" :choices="choices"
          @correct="correct" @give="give" @started="refresh" @cancel="act(cancelJob($event))"
        />
        <TermsPanel v-if="tab === 'terms' && doc" :recording-id="id" @review="fixing.lookAtTerms" />
        <p v-if="!doc && (tab === 'speakers' || tab === 'terms')" class="quiet">This waits until all words have been found.</p>
        <template v-if="tab === 'clips'">
          <p v-if="!clips.length" class="quiet">Drag over a passage worth sharing, then press <b>Make clip</b>.</p>
          <ul v-else>
            <li v-for="clip in clips" :key="clip.id">
              <RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink>
              <span class="time quiet">{{ clock(clip.stretches[0]?.start ?? 0, false) }}</span>
            </li>
          </ul>
        </template>
      </div>
      <p class="keys quiet">Space plays · J K L · arrows move, Shift selects · Delete cuts, B brings back · Enter corrects · D next to check · 1–9 speaker · M makes a clip · Ctrl+F finds</p>
    </aside>
    <HistoryDrawer v-if="history && doc" class="over" :doc="doc" @back="sheet.goBack" @close="closeHistory" />
    <Occurrences :places="fixing.places.value" :title="fixing.title.value" @apply="fixing.apply" @close="fixing.places.value = null" @hear="(at) => hearAround(at, at + 0.5)" />
  </div>
</template>

<style scoped>
.desk { position: relative; display: grid; grid-template-columns: 56px minmax(0, 1fr) 340px; height: 100%; overflow: hidden; }
.spine-column { grid-column: 1; }
.middle { grid-column: 2; }
.over { position: absolute; top: 0; right: 0; bottom: 0; z-index: 10; width: min(340px, 100%); border-left: 1px solid var(--rule); }
.title { overflow: hidden; font-size: 16px; text-overflow: ellipsis; white-space: nowrap; }
.middle { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--rule); }
.middle > .frame { flex: 1; }
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
.grow { flex: 1; }
.state { margin: 0; padding: 8px 28px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.fix { display: flex; gap: 10px; align-items: center; padding: 6px 20px; }
.fix .el-button { margin-left: 0; }
.empty { padding: 60px; text-align: center; }
aside { display: flex; flex-direction: column; gap: 10px; min-height: 0; padding: 14px 16px 10px; }
.stage { position: relative; flex: none; background: var(--ink); border-radius: 4px; overflow: hidden; }
.stage canvas { display: block; width: 100%; max-height: 180px; object-fit: contain; }
.nopicture { position: absolute; inset: 0; display: grid; padding: 0 20px; text-align: center; place-items: center; color: #c9cdd5; font-size: 14px; }
.tabs { display: flex; flex: none; flex-wrap: wrap; gap: 0 7px; border-bottom: 1px solid var(--rule); }
.tabs button { padding: 6px 0; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-2); font-weight: 500; font-size: 13px; white-space: nowrap; cursor: pointer; }
.tabs button[aria-selected='true'] { border-bottom-color: var(--pencil); color: var(--ink); }
.panel { flex: 1; min-height: 0; overflow-y: auto; font-size: 14px; }
.panel p { margin: 4px 0 10px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; gap: 8px; justify-content: space-between; padding: 3px 0; font-size: 14px; }
.keys { flex: none; margin: 0; font-size: 12px; line-height: 1.4; }
.length { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
@media (width < 1180px) {
  .desk { grid-template-columns: 40px minmax(0, 1fr) 290px; }
  .bar { padding: 8px 12px; }
  .tabs { gap: 10px; }
  .tabs button { font-size: 13px; }
}
@media (width < 900px) {
  .desk { grid-template-columns: 24px minmax(0, 1fr); }
  .bar { padding: 4px 8px; }
  .bar .el-button { padding: 4px 7px; }
  aside.drawer { position: absolute; top: 0; right: 0; bottom: 0; z-index: 30; width: min(340px, 92%); overflow-y: auto; border-left: 1px solid var(--rule); background: var(--paper); visibility: hidden; }
  aside.drawer.open { visibility: visible; }
  aside.drawer .panel { flex: none; overflow: visible; }
}
@media (height < 560px) {
  .keys { display: none; }
}
</style>
