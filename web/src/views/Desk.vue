<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, got, type Schemas } from '@/api/client'
import FindBar from '@/components/FindBar.vue'
import JobLine from '@/components/JobLine.vue'
import Occurrences from '@/components/Occurrences.vue'
import SpeakersPanel from '@/components/SpeakersPanel.vue'
import Spine from '@/components/Spine.vue'
import SweepPanel from '@/components/SweepPanel.vue'
import TermsPanel from '@/components/TermsPanel.vue'
import TranscriptPage from '@/components/TranscriptPage.vue'
import Transport from '@/components/Transport.vue'
import { clock } from '@/composables/format'
import { tellError } from '@/composables/tell'
import { changed, doubtful, reading, type Word } from '@/composables/transcript'
import { useCorrecting } from '@/composables/useCorrecting'
import { useCutting } from '@/composables/useCutting'
import { useDocument, type Finding } from '@/composables/useDocument'
import { useHearing } from '@/composables/useHearing'
import { usePlayer } from '@/composables/usePlayer'
import { active, busy, cancelJob, prepareAgain, useRecording } from '@/composables/useRecording'

const props = defineProps<{ id: string }>()
const router = useRouter()
const id = toRef(props, 'id')
const { recording, transcript, setTranscript, reread, refresh } = useRecording(id)

// An edit may have changed the words as well: it says how, or the page reads them anew.
const sheet = useDocument((doc) => {
  const { words } = doc
  const at = transcript.data.value?.words_at
  if (words && words.before === at) setTranscript((before) => changed(before, words))
  else if (doc.words_at !== at) void reread()
}, () => void reread())
const { doc, undo, redo, sweep, correct } = sheet
const fixing = useCorrecting(id, sheet)

const page = ref<InstanceType<typeof TranscriptPage> | null>(null)
const finder = ref<InstanceType<typeof FindBar> | null>(null)
const picture = ref<HTMLCanvasElement | null>(null)
const TABS = [['sweep', 'Sweep'], ['speakers', 'Speakers'], ['terms', 'Names & terms'], ['clips', 'Clips']] as const
const tab = ref<(typeof TABS)[number][0]>('sweep')
const finding = ref(false)
const found = ref<[number, number][]>([])

const now = computed(() => recording.data.value)
const url = computed(() => (now.value?.playable ? `/api/recordings/${props.id}/files/working` : null))
const shape = computed(() => {
  const media = now.value?.media
  return media?.has_picture && media.height ? (media.width ?? 16) / media.height : 16 / 9
})
const { plan, follow } = useHearing(sheet.plan)
const player = usePlayer({ plan, url, picture })
const hearAround = follow(player)
const { chosen, cut, bringBack } = useCutting(sheet, page, player.toggle, press)

async function readDesk() {
  try {
    doc.value = await got(api.GET('/api/documents/desk/{recording_id}', { params: { path: { recording_id: props.id } } }))
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
const doubts = computed(() => allWords.value.filter(doubtful))

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

function closeFind() {
  finding.value = false
  page.value?.focus()
}

function faster() {
  if (!player.playing.value) player.toggle()
  else player.speed.value = Math.min(player.speed.value < 1 ? 1 : player.speed.value + 0.5, 2)
}

/** The keys of the desk, beside those of every editing page. */
function press(event: KeyboardEvent): boolean {
  const key = event.key.toLowerCase()
  if ((event.ctrlKey || event.metaKey) && (key === 'f' || key === 'g')) {
    find()
    return true
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return false
  if (event.key === 'Enter') return doc.value ? (page.value?.edit() ?? false) : false
  if (/^[1-9]$/.test(key)) give(`S${key}`)
  else if (key === 'd') doubt(event.shiftKey ? -1 : 1)
  else if (key === 'j') player.seekSource(Math.max(player.source.value - 3, 0))
  else if (key === 'k') {
    player.pause()
    player.speed.value = 1
  } else if (key === 'l') faster()
  else return false
  return true
}

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

async function makeClip() {
  const first = words.value[0]
  const last = words.value.at(-1)
  if (!first || !last) return
  try {
    const clip = await got(
      api.POST('/api/documents/desk/{recording_id}/clips', {
        params: { path: { recording_id: props.id } },
        body: { first: first.id, last: last.id },
      }),
    )
    await router.push({ name: 'sheet', params: { id: clip.id } })
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
const preparing = computed(() => now.value?.jobs.filter((job) => job.kind !== 'speakers') ?? [])

function rewrite(changing: Word[], text: string) {
  const texts = text.split(/\s+/)
  if (texts.length === changing.length) setTranscript((before) => reading(before, changing, texts))
  void fixing.rewrite(changing, text)
}
</script>

<template>
  <Teleport defer to="#crumbs">
    <h1 class="title">{{ now?.title }}</h1>
    <span v-if="doc" class="time quiet" data-test="length">
      {{ clock(doc.seconds) }}<template v-if="saved > 0.05"> of {{ clock(doc.uncut) }}, {{ saved.toFixed(1) }} s saved</template>
    </span>
  </Teleport>
  <div class="desk">
    <Spine
      v-if="now" :duration="now.duration" :skyline="now.skyline" :plan="sheet.plan.value" :clips="now.clips" :source="player.source.value"
      :transcript="transcript.data.value ?? null" @go="player.seekSource"
    />
    <div class="middle">
      <div class="bar" role="toolbar" aria-label="Editing">
        <el-button :disabled="!doc || !chosen.length" title="Cut (Delete)" @click="cut">Cut</el-button>
        <el-button :disabled="!doc || !chosen.length" title="Bring back (B)" @click="bringBack">Bring back</el-button>
        <el-button :disabled="!doc || !words.length" title="Correct the selected words (Enter)" @click="page?.edit()">Correct</el-button>
        <span class="sep" />
        <el-button :disabled="!doc?.can_undo" title="Undo (Ctrl+Z)" @click="undo">Undo</el-button>
        <el-button :disabled="!doc?.can_redo" title="Redo (Ctrl+Shift+Z)" @click="redo">Redo</el-button>
        <span class="sep" />
        <el-button text :disabled="!allWords.length" title="Find words or a time (Ctrl+F)" @click="find">Find</el-button>
        <el-button v-if="doc && doubts.length" text title="Next word the recogniser was not sure of (D; Shift+D the one before)" @click="doubt(1)">
          {{ doubts.length }} doubtful
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
        <el-button type="primary" :disabled="!doc || !words.length" :title="words.length ? `${words.length} words selected` : 'Select a passage first'" @click="makeClip">Make clip</el-button>
      </div>
      <FindBar
        v-if="finding" ref="finder" :words="allWords" @found="found = $event" @show="page?.selectWords($event)"
        @go="player.seekSource" @replace="fixing.lookEverywhere" @close="closeFind"
      />
      <p v-if="fixing.last.value" class="state fix" role="status">
        “{{ fixing.last.value.from }}” reads “{{ fixing.last.value.to }}” now.
        <el-button v-if="fixing.last.value.more.length" size="small" @click="fixing.lookEverywhere(fixing.last.value.from, fixing.last.value.to)">
          {{ fixing.last.value.more.length }} more place{{ fixing.last.value.more.length === 1 ? '' : 's' }}…
        </el-button>
        <el-button size="small" @click="fixing.addTerm">Add to names &amp; terms</el-button>
        <el-button text size="small" @click="fixing.last.value = null">Dismiss</el-button>
      </p>
      <p v-if="recording.error.value" class="state alarm" role="alert">
        {{ recording.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
      </p>
      <template v-if="now && preparing.some(active)">
        <div v-for="job in preparing.filter(active)" :key="job.id" class="state">
          <JobLine :job="job" @cancel="act(cancelJob(job))" @retry="act(prepareAgain(now))" />
        </div>
      </template>
      <template v-else-if="now">
        <div v-for="job in preparing.filter((each) => each.state === 'failed' || each.state === 'cancelled')" :key="job.id" class="state">
          <JobLine :job="job" @retry="act(prepareAgain(now))" />
        </div>
      </template>
      <p v-if="now?.notice" class="state">{{ now.notice }}</p>
      <TranscriptPage
        v-if="transcript.data.value?.words.length" ref="page" :transcript="transcript.data.value" :doc="doc"
        :source="player.source.value" :playing="player.playing.value" :found="found"
        @go="player.seekSource" @selected="chosen = $event" @rewrite="rewrite"
      />
      <p v-else-if="now && busy(now)" class="empty quiet">The first words appear here as soon as they are heard.</p>
      <p v-else-if="transcript.data.value?.complete" class="empty quiet">There are no words in this recording.</p>
    </div>
    <aside>
      <div v-show="!now?.media || now.media.has_picture" class="stage">
        <canvas ref="picture" width="640" :height="Math.round(640 / shape)" :style="{ aspectRatio: shape }"></canvas>
        <span v-if="now && !now.playable" class="nopicture">The picture is being prepared…</span>
      </div>
      <Transport
        :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value" :speed="player.speed.value"
        @toggle="player.toggle" @seek="player.seek" @speed="player.speed.value = $event"
      />
      <div class="tabs" role="tablist">
        <button v-for="[key, name] in TABS" :key="key" role="tab" :aria-selected="tab === key" @click="tab = key">{{ name }}</button>
      </div>
      <div class="panel">
        <SweepPanel v-show="tab === 'sweep'" :doc="doc" :sweep="sweep" @hear="hear" />
        <SpeakersPanel
          v-if="tab === 'speakers' && doc && transcript.data.value" :recording-id="id" :transcript="transcript.data.value" :jobs="now?.jobs ?? []"
          @correct="correct" @give="give" @started="refresh" @cancel="act(cancelJob($event))"
        />
        <TermsPanel v-if="tab === 'terms' && doc" :recording-id="id" @review="fixing.lookAtTerms" />
        <p v-if="!doc && (tab === 'speakers' || tab === 'terms')" class="quiet">This waits until all words have been found.</p>
        <template v-if="tab === 'clips'">
          <p v-if="!now?.clips.length" class="quiet">Drag over a passage worth sharing, then press <b>Make clip</b>.</p>
          <ul v-else>
            <li v-for="clip in now.clips" :key="clip.id">
              <RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink>
              <span class="time quiet">{{ clock(clip.start, false) }}</span>
            </li>
          </ul>
        </template>
      </div>
      <p class="keys quiet">Space plays · J K L · arrows move, Shift selects · Delete cuts, B brings back · Enter corrects · D doubtful · 1–9 speaker · Ctrl+F finds</p>
    </aside>
    <Occurrences :places="fixing.places.value" :title="fixing.title.value" @apply="fixing.apply" @close="fixing.places.value = null" @hear="(at) => hearAround(at, at + 0.5)" />
  </div>
</template>

<style scoped>
.desk { display: grid; grid-template-columns: 56px minmax(0, 1fr) 340px; height: 100%; }
.title { overflow: hidden; font-size: 16px; text-overflow: ellipsis; white-space: nowrap; }
.middle { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--rule); }
.middle > .frame { flex: 1; }
.bar { display: flex; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
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
.nopicture { position: absolute; inset: 0; display: grid; place-items: center; color: #c9cdd5; font-size: 14px; }
.tabs { display: flex; flex: none; gap: 14px; border-bottom: 1px solid var(--rule); }
.tabs button { padding: 6px 0; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-2); font-weight: 500; font-size: 14px; white-space: nowrap; cursor: pointer; }
.tabs button[aria-selected='true'] { border-bottom-color: var(--pencil); color: var(--ink); }
.panel { flex: 1; min-height: 0; overflow-y: auto; font-size: 14px; }
.panel p { margin: 4px 0 10px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; gap: 8px; justify-content: space-between; padding: 3px 0; font-size: 14px; }
.keys { flex: none; margin: 0; font-size: 12px; line-height: 1.4; }
</style>
