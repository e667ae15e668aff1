<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, csrfToken, got, ApiError, type Schemas } from '@/api/client'
import BringInLine from './BringInLine.vue'
import BrokenOffLines from '@/capture/BrokenOffLines.vue'
import JobLine from '@/shared/JobLine.vue'
import LinkDialog from './LinkDialog.vue'
import ShowBar from './ShowBar.vue'
import Skyline from './Skyline.vue'
import UploadLine from './UploadLine.vue'
import { sureToDelete } from '@/shared/ask'
import { clock } from '@/shared/format'
import { onTop } from '@/shared/onTop'
import { tell, tellChange, tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import { useClips, type Clip } from './useClips'
import { useReadyNotice } from './useReadyNotice'
import { active, cancelJob } from '@/shared/jobs'
import { busy, jobsOf, prepareAgain, type Recording } from './recording'
import { useRecordings } from './useRecording'
import { useShows } from './useShows'
import { useUploads } from './useUploads'

const WORDS = /\.(srt|vtt|txt)$/i
const stem = (name: string) => name.replace(/\.[^.]+$/, '').toLowerCase()

const router = useRouter()
const recordings = useRecordings()
const shows = useShows()
const clips = useClips()
const choices = useChoices()
const uploads = useUploads(() => choices.value?.upload_hours ?? 0, async (id, beside) => {
  if (beside.words && id) await giveWords(id, beside.words)
  await recordings.refetch()
  void shows.refresh()
})
const chooser = ref<HTMLInputElement | null>(null)
const wordsChooser = ref<HTMLInputElement | null>(null)
const wordsFor = ref<string | null>(null)
const over = ref(false)
const linking = ref(false)
const show = ref<string | null>(null) // the show looked at; null for all
const all = computed(() => recordings.data.value ?? [])
const wanted = ref('')
const order = ref<'newest' | 'title' | 'longest'>('newest')
const ORDERS = {
  newest: (a: Recording, b: Recording) => b.created.localeCompare(a.created),
  title: (a: Recording, b: Recording) => a.title.localeCompare(b.title),
  longest: (a: Recording, b: Recording) => b.duration - a.duration,
}
const shown = computed(() => (show.value ? all.value.filter((each) => each.show === show.value) : all.value))
const list = computed(() => {
  const text = wanted.value.trim().toLowerCase()
  const named = (each: Recording) => [each.title, each.file_name, ...each.speakers, ...clips.of(each.id).map((clip) => clip.title)]
  const found = text ? shown.value.filter((each) => named(each).some((name) => name.toLowerCase().includes(text))) : shown.value
  return [...found].sort(ORDERS[order.value])
})
useReadyNotice(all)
const STATES: Record<Clip['export'], string> = { none: '', waiting: 'being exported', failed: 'export failed', cancelled: 'export cancelled', ready: 'exported', changed: 'changed since its export' }

/** Files that were chosen or dropped. Words go with the recording of the same name. */
async function take(files: FileList | null | undefined) {
  const given = [...(files ?? [])]
  const words = given.filter((file) => WORDS.test(file.name))
  for (const file of given.filter((each) => !WORDS.test(each.name))) {
    const twin = all.value.find((each) => each.file_name === file.name && each.size === file.size)
    if (twin) {
      const again = await ElMessageBox.confirm(`“${twin.title}” was made from a file of this name and size. Bring it in again?`, 'The same file', {
        confirmButtonText: 'Bring in again', cancelButtonText: 'Cancel',
      }).catch(() => null)
      if (!again) continue
    }
    const own = words.findIndex((each) => stem(each.name) === stem(file.name))
    uploads.start(file, { show: show.value, words: own < 0 ? undefined : words.splice(own, 1)[0] })
  }
  for (const file of words) {
    const recording = all.value.find((each) => stem(each.file_name) === stem(file.name))
    if (recording) await giveWords(recording.id, file)
    else tellChange(`“${file.name}” has words for no recording of that name. Drop both together, or use “Import a transcript” in its menu.`)
  }
}

async function giveWords(id: string, file: File) {
  const body = new FormData()
  body.append('file', file)
  try {
    const answer = await fetch(`/api/recordings/${id}/words-file`, { method: 'POST', body, headers: { 'X-CSRFToken': csrfToken() } })
    if (!answer.ok) throw new ApiError(answer.status, ((await answer.json()) as { detail: string }).detail)
    tell(`The words of “${file.name}” are used.`)
  } catch (error) {
    tellError(error)
  }
  await recordings.refetch()
}

function chooseWords(files: FileList | null | undefined) {
  if (wordsFor.value && files?.[0]) void giveWords(wordsFor.value, files[0])
  if (wordsChooser.value) wordsChooser.value.value = ''
}

function drop(event: DragEvent) {
  over.value = false
  void take(event.dataTransfer?.files)
}

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await Promise.all([recordings.refetch(), clips.query.refetch()])
}

const path = (recording: Recording) => ({ params: { path: { recording_id: recording.id } } })

async function remove(recording: Recording) {
  const shown = clips.of(recording.id)
  const missing = shown.map((clip) => `“${clip.title}” (${clock(clip.stretches.reduce((sum, each) => sum + each.end - each.start, 0))})`)
  const told = missing.length ? ` What it shows will be missing in: ${missing.join(', ')}. The clips stay.` : ''
  if (await sureToDelete(`Delete “${recording.title}”?`, `The file is removed and this cannot be undone.${told}`)) await act(got(api.DELETE('/api/recordings/{recording_id}', path(recording))))
}

const reread = async (recording: Recording) => (await recordings.refetch()).data?.find((each) => each.id === recording.id)

/** Change a recording; on top of what somebody else made of it meanwhile. */
function change(recording: Recording, what: { title?: string; show?: string | null }) {
  return act(onTop(recording, reread, (version) => got(api.PATCH('/api/recordings/{recording_id}', { ...path(recording), body: { version, ...what } }))))
}

async function rename(recording: Recording) {
  const given = await ElMessageBox.prompt('Title', 'Rename recording', { inputValue: recording.title, confirmButtonText: 'Rename', cancelButtonText: 'Cancel' }).catch(() => null)
  const title = given?.value.trim()
  if (title) await change(recording, { title })
}

async function move(recording: Recording, to: string) {
  await change(recording, { show: to || null })
  void shows.refresh()
}

function command(recording: Recording, name: string) {
  if (name === 'rename') void rename(recording)
  else if (name === 'delete') void remove(recording)
  else if (name.startsWith('hear-')) void hearAgain(recording, { hears: name.slice('hear-'.length) as Quality })
  else if (name.startsWith('language-')) void hearAgain(recording, { language: name.slice('language-'.length) })
  else {
    wordsFor.value = recording.id
    wordsChooser.value?.click()
  }
}

type Quality = NonNullable<Schemas['HearAgain']['hears']>
const language = (code: string) => choices.value?.languages[code] ?? code
/** Its words are found anew; what was corrected is laid over them. */
async function hearAgain(recording: Recording, how: Schemas['HearAgain']) {
  const sure = await ElMessageBox.confirm('It is transcribed anew. Your corrections and speakers are kept; what no longer fits is told.', `Transcribe “${recording.title}” again?`, { confirmButtonText: 'Transcribe again', cancelButtonText: 'Cancel' }).catch(() => null)
  if (sure) await act(got(api.POST('/api/recordings/{recording_id}/transcribe', { params: { path: { recording_id: recording.id } }, body: how })))
}

async function fetchLink(link: string) {
  linking.value = false
  await act(got(api.POST('/api/recordings/links', { body: { link, show: show.value } })))
  void shows.refresh()
}

/** Clips of which nothing is left that could be seen: their recordings were deleted. */
const orphans = computed(() => {
  const there = new Set(all.value.map((each) => each.id))
  return recordings.data.value ? clips.all.value.filter((clip) => !clip.stretches.some((each) => there.has(each.recording))) : []
})

function state(recording: Recording): string {
  if (!recording.media) return ''
  if (!recording.words_ready) return 'Words are being found'
  const count = clips.of(recording.id).length
  return `${recording.words.toLocaleString('en')} words · ${count || 'no'} clip${count === 1 ? '' : 's'}`
}
</script>

<template>
  <div
    class="recordings" :class="{ over }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="drop"
  >
    <Teleport defer to="#actions">
      <el-button class="long" @click="router.push({ name: 'record' })">Record</el-button>
      <el-button @click="linking = true">From a link</el-button>
      <el-button type="primary" aria-label="Bring in a recording" @click="chooser?.click()">Bring in<span class="long">&nbsp;a recording</span></el-button>
    </Teleport>
    <input
      ref="chooser" type="file" multiple accept="video/*,audio/*,.mkv,.mxf,.srt,.vtt,.txt" hidden data-test="files"
      @change="take(chooser?.files).then(() => { if (chooser) chooser.value = '' })"
    />
    <input ref="wordsChooser" type="file" accept=".srt,.vtt,.txt" hidden data-test="words-file" @change="chooseWords(wordsChooser?.files)" />
    <LinkDialog :open="linking" @close="linking = false" @fetch="fetchLink" />
    <div class="heading">
      <h1>Recordings</h1>
      <input v-model="wanted" type="search" class="search" placeholder="Search titles, people, clips" aria-label="Search recordings" />
      <select v-model="order" aria-label="Order">
        <option value="newest">Newest first</option>
        <option value="title">By title</option>
        <option value="longest">Longest first</option>
      </select>
    </div>
    <ShowBar v-model="show" :shows="shows" :total="all.length" />
    <UploadLine
      v-for="entry in uploads.list.value" :key="entry.key" :entry="entry"
      @pause="uploads.pause(entry)" @go-on="uploads.goOn(entry)" @cancel="uploads.cancel(entry)"
    />
    <BrokenOffLines looks @kept="recordings.refetch()" />
    <p v-for="each in uploads.unfinished.value" :key="each.name" class="unfinished">
      <b>{{ each.name }}</b> was not brought in completely. Choose the same file again, and it goes on from where it stopped.
      <el-button text size="small" @click="each.forget()">Discard</el-button>
    </p>
    <p v-if="recordings.error.value" class="alarm" role="alert">{{ recordings.error.value.message }}</p>
    <p v-else-if="recordings.isPending.value" class="quiet" role="status">Reading your recordings…</p>
    <div v-else-if="shown.length && !list.length" class="empty">
      <h2>Nothing found</h2>
      <p class="quiet">No recording, person or clip here has “{{ wanted }}” in its name.</p>
      <el-button @click="wanted = ''">Show all</el-button>
    </div>
    <div v-else-if="recordings.data.value && !list.length" class="empty">
      <h2>Nothing here yet</h2>
      <p class="quiet">
        Drop a talk, a podcast or an interview on this page, video or sound, or press <b>Bring in a recording</b>.<br />
        If its words are in an SRT, VTT or TXT file already, drop that with it.
      </p>
    </div>
    <ul>
      <li v-for="recording in list" :key="recording.id">
        <div class="what">
          <RouterLink :to="{ name: 'desk', params: { id: recording.id } }">{{ recording.title }}</RouterLink>
          <span class="quiet">{{ recording.speakers.join(', ') || recording.file_name }}</span>
        </div>
        <select class="show" :value="recording.show ?? ''" :aria-label="`Show of ${recording.title}`" @change="move(recording, ($event.target as HTMLSelectElement).value)">
          <option value="">No show</option>
          <option v-for="each in shows.query.data.value" :key="each.id" :value="each.id">{{ each.name }}</option>
        </select>
        <Skyline :levels="recording.skyline" :duration="recording.duration" :clips="clips.of(recording.id)" />
        <span class="time">{{ recording.duration ? clock(recording.duration, false) : '' }}</span>
        <div class="state">
          <BringInLine
            :jobs="jobsOf(recording, 'bringing in')" :name="recording.title"
            @cancel="act(cancelJob($event))" @retry="act(prepareAgain(recording))"
          />
          <JobLine v-for="job in jobsOf(recording, 'asked for').filter(active)" :key="job.id" :job="job" :name="recording.title" @cancel="act(cancelJob(job))" />
          <span v-if="!busy(recording)" class="quiet">{{ state(recording) }}</span>
          <RouterLink v-if="recording.passages && !busy(recording)" class="waits" :to="{ name: 'desk', params: { id: recording.id }, hash: '#passages' }">{{ recording.passages }} suggested passage{{ recording.passages === 1 ? '' : 's' }}</RouterLink>
          <span v-if="clips.of(recording.id).length" class="clips">
            <RouterLink v-for="clip in clips.of(recording.id)" :key="clip.id" :to="{ name: 'sheet', params: { id: clip.id } }" :title="clip.title">
              {{ clip.title }}<i v-if="clip.export !== 'none'" class="quiet"> ({{ STATES[clip.export] }})</i>
            </RouterLink>
          </span>
          <span v-if="recording.notice" class="notice">{{ recording.notice }}</span>
          <span v-if="recording.sounds_like && !busy(recording)" class="notice">
            This sounds like {{ language(recording.sounds_like) }}, and was transcribed in {{ language(recording.language) }}.
            <el-button link type="primary" size="small" @click="hearAgain(recording, { language: recording.sounds_like })">Transcribe again in {{ language(recording.sounds_like) }}</el-button>
          </span>
        </div>
        <el-dropdown append-to="#menus" trigger="click" @command="command(recording, $event)">
          <el-button text :aria-label="`More for ${recording.title}`">More</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item command="rename">Rename…</el-dropdown-item>
              <el-dropdown-item v-for="(name, key) in choices?.hearing" :key="key" :command="`hear-${key}`" :disabled="!recording.words_ready">Transcribe again: {{ name.toLowerCase() }}{{ recording.hears === key ? ' (as now)' : '' }}</el-dropdown-item>
              <el-dropdown-item v-if="recording.sounds_like" :command="`language-${recording.sounds_like}`" :disabled="!recording.words_ready">Transcribe again in {{ language(recording.sounds_like) }}</el-dropdown-item>
              <el-dropdown-item command="words">Import a transcript (SRT, VTT, TXT)…</el-dropdown-item>
              <el-dropdown-item command="delete" divided>Delete…</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
      </li>
    </ul>
    <section v-if="orphans.length" class="orphans" aria-label="Clips without a recording">
      <h2>Clips whose recording was deleted</h2>
      <p class="quiet">What they showed is gone; what was exported of them is still there.</p>
      <RouterLink v-for="clip in orphans" :key="clip.id" :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink>
    </section>
    <p v-if="list.length" class="hint quiet">Drop more files anywhere on this page. Words in an SRT, VTT or TXT file of the same name are used instead of transcribing.</p>
  </div>
</template>

<style scoped>
@media (width < 480px) {
  .long { display: none; }
}
.recordings { height: 100%; padding: 24px 32px; overflow-y: auto; }
.heading { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; }
.heading select, .search { padding: 4px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 14px; }
.search { width: 240px; margin-left: auto; }
.clips { display: flex; flex-direction: column; min-width: 0; }
.clips a { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.clips i { font-style: normal; }
.over { outline: 3px dashed var(--pencil); outline-offset: -10px; }
ul { margin: 12px 0 0; padding: 0; list-style: none; border-top: 1px solid var(--rule); }
li { display: grid; grid-template-columns: 230px 116px minmax(0, 1fr) 56px 290px auto; gap: 18px; align-items: center; padding: 14px 0; border-bottom: 1px solid var(--rule); }
.what { display: flex; flex-direction: column; min-width: 0; }
.what a { overflow: hidden; color: var(--ink); font-weight: 600; text-decoration: none; text-overflow: ellipsis; }
.what a:hover { color: var(--pencil); text-decoration: underline; }
.what .quiet { font-size: 13px; overflow-wrap: anywhere; }
.show { min-width: 0; padding: 3px 4px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink-2); font-size: 13px; }
.show:hover, .show:focus { border-color: var(--rule); }
.time { text-align: right; }
.state { display: flex; flex-direction: column; gap: 4px; font-size: 13px; min-width: 0; }
.notice { color: var(--rust-text); }
.unfinished { margin: 0; padding: 10px 0; border-bottom: 1px solid var(--rule); font-size: 14px; }
.empty { margin-top: 80px; text-align: center; }
.hint { font-size: 13px; }
.orphans { display: flex; flex-direction: column; gap: 4px; margin-top: 24px; font-size: 14px; }
.orphans p { margin: 0; }
@media (width < 1180px) {
  .recordings { padding: 16px 20px; }
  li { grid-template-columns: minmax(0, 1fr) 110px 52px 250px auto; gap: 8px 14px; }
  li > .skyline { grid-row: 2; grid-column: 1 / 4; }
  li > .state { grid-row: 1 / 3; grid-column: 4; }
}
@media (width < 900px) {
  li { grid-template-columns: minmax(0, 1fr) 52px auto; }
  li > .skyline, li > .show { display: none; }
  li > .state { grid-row: 2; grid-column: 1 / -1; }
  .search { width: 160px; }
}
</style>
