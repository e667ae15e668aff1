<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import JobLine from '@/components/JobLine.vue'
import Skyline from '@/components/Skyline.vue'
import UploadLine from '@/components/UploadLine.vue'
import { clock, speakerName } from '@/composables/format'
import { tellError } from '@/composables/tell'
import { active, cancelJob, prepareAgain, useRecordings, type Recording } from '@/composables/useRecording'
import { useUploads } from '@/composables/useUploads'

const recordings = useRecordings()
const uploads = useUploads(() => void recordings.refetch())
const chooser = ref<HTMLInputElement | null>(null)
const over = ref(false)
const list = computed(() => recordings.data.value ?? [])

function take(files: FileList | null | undefined) {
  for (const file of files ?? []) uploads.start(file)
}

function drop(event: DragEvent) {
  over.value = false
  take(event.dataTransfer?.files)
}

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await recordings.refetch()
}

async function remove(recording: Recording) {
  const clips = recording.clips.length ? ` with its ${recording.clips.length} clip${recording.clips.length > 1 ? 's' : ''}` : ''
  const sure = await ElMessageBox.confirm(`Delete “${recording.title}”${clips}? The file is removed and this cannot be undone.`, {
    confirmButtonText: 'Delete',
    cancelButtonText: 'Keep',
  }).catch(() => null)
  if (sure) await act(got(api.DELETE('/api/recordings/{recording_id}', { params: { path: { recording_id: recording.id } } })))
}

function state(recording: Recording): string {
  if (!recording.media) return ''
  if (!recording.words_ready) return 'Words are being found'
  const clips = recording.clips.length
  return `${recording.words.toLocaleString('en')} words · ${clips || 'no'} clip${clips === 1 ? '' : 's'}`
}
</script>

<template>
  <div
    class="recordings" :class="{ over }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="drop"
  >
    <Teleport defer to="#actions">
      <el-button type="primary" @click="chooser?.click()">Bring in a recording</el-button>
    </Teleport>
    <input ref="chooser" type="file" multiple accept="video/*,audio/*,.mkv,.mxf" hidden data-test="files" @change="take(chooser?.files)" />
    <h1>Recordings</h1>
    <UploadLine
      v-for="entry in uploads.list.value" :key="entry.key" :entry="entry"
      @pause="uploads.pause(entry)" @go-on="uploads.goOn(entry)" @cancel="uploads.cancel(entry)"
    />
    <p v-if="recordings.error.value" class="alarm" role="alert">{{ recordings.error.value.message }}</p>
    <div v-else-if="recordings.data.value && !list.length" class="empty">
      <h2>Nothing here yet</h2>
      <p class="quiet">Drop a talk, a podcast or an interview on this page, video or sound, or press <b>Bring in a recording</b>.</p>
    </div>
    <ul>
      <li v-for="recording in list" :key="recording.id">
        <div class="what">
          <RouterLink :to="{ name: 'desk', params: { id: recording.id } }">{{ recording.title }}</RouterLink>
          <span class="quiet">{{ recording.speakers.map(speakerName).join(', ') || recording.file_name }}</span>
        </div>
        <Skyline :levels="recording.skyline" :duration="recording.duration" :clips="recording.clips" />
        <span class="time">{{ recording.duration ? clock(recording.duration, false) : '' }}</span>
        <div class="state">
          <JobLine
            v-for="job in recording.jobs.filter((each) => each.state !== 'done')" :key="job.id" :job="job"
            @cancel="act(cancelJob(job))" @retry="act(prepareAgain(recording))"
          />
          <span v-if="!recording.jobs.some(active)" class="quiet">{{ state(recording) }}</span>
          <span v-if="recording.notice" class="notice">{{ recording.notice }}</span>
        </div>
        <el-button text :aria-label="`Delete ${recording.title}`" @click="remove(recording)">Delete</el-button>
      </li>
    </ul>
    <p v-if="list.length" class="hint quiet">Drop more files anywhere on this page.</p>
  </div>
</template>

<style scoped>
.recordings { height: 100%; padding: 24px 32px; overflow-y: auto; }
.over { outline: 3px dashed var(--pencil); outline-offset: -10px; }
ul { margin: 16px 0 0; padding: 0; list-style: none; border-top: 1px solid var(--rule); }
li { display: grid; grid-template-columns: 270px minmax(0, 1fr) 64px 290px auto; gap: 20px; align-items: center; padding: 14px 0; border-bottom: 1px solid var(--rule); }
.what { display: flex; flex-direction: column; min-width: 0; }
.what a { overflow: hidden; color: var(--ink); font-weight: 600; text-decoration: none; text-overflow: ellipsis; }
.what a:hover { color: var(--pencil); text-decoration: underline; }
.what .quiet { font-size: 13px; }
.time { text-align: right; }
.state { display: flex; flex-direction: column; gap: 4px; font-size: 13px; min-width: 0; }
.notice { color: var(--rust); }
.empty { margin-top: 80px; text-align: center; }
.hint { font-size: 13px; }
</style>
