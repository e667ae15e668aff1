<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { secondOf } from '@/document/cameras'
import { useBackground } from '@/recordings/useBackground'
import UploadLine from '@/recordings/UploadLine.vue'
import { useUploads } from '@/recordings/useUploads'
import { sureToDelete } from '@/shared/ask'
import { clock } from '@/shared/format'
import { active } from '@/shared/jobs'
import { tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'

/** The other cameras and microphones of a talk: brought in, put in step by their sound, nudged. */
const props = defineProps<{ recordingId: string; time: number }>()
type Angle = Schemas['AngleOut']

const client = useQueryClient()
const path = () => ({ path: { recording_id: props.recordingId } })
const of = (angle: Angle) => ({ path: { recording_id: props.recordingId, number: angle.number } })
const key = computed(() => ['angles', props.recordingId])
const SOON = 1500 // ms after which it is asked again while something is under way
const waits = (each: Angle) => each.offset === null && !each.told
const { data: angles } = useQuery({
  queryKey: key,
  queryFn: () => got(api.GET('/api/recordings/{recording_id}/angles', { params: path() })),
  refetchInterval: (state) => (state.state.data?.some((each) => waits(each) || !each.playable) ? SOON : false),
})
const adding = ref(false)
const { data: offered } = useQuery({
  queryKey: computed(() => [...key.value, 'offered']),
  queryFn: () => got(api.GET('/api/recordings/{recording_id}/angles/offered', { params: path() })),
})
/** What is heard to be of this talk is offered unasked. */
const heard = computed(() => (adding.value ? [] : (offered.value ?? []).filter((each) => each.heard)))
const { recording, keeping, takeOff } = useBackground(computed(() => props.recordingId))
const chooser = ref<HTMLInputElement | null>(null)
const choices = useChoices()
const uploads = useUploads(() => choices.value?.upload_hours ?? 0, () => void client.invalidateQueries({ queryKey: key.value }))

async function done(work: Promise<Angle[] | unknown>) {
  const now = await work.catch(tellError)
  if (Array.isArray(now)) client.setQueryData(key.value, now)
  await client.invalidateQueries({ queryKey: key.value })
}
function bringIn(files: FileList | null | undefined) {
  for (const file of [...(files ?? [])]) uploads.start(file, { angleOf: props.recordingId })
  if (chooser.value) chooser.value.value = ''
  adding.value = false
}
function use(film: string) {
  adding.value = false
  void done(got(api.POST('/api/recordings/{recording_id}/angles', { params: path(), body: { film } })))
}
const change = (angle: Angle, what: Omit<Schemas['AngleChange'], 'version'>) =>
  done(got(api.PATCH('/api/recordings/{recording_id}/angles/{number}', { params: of(angle), body: { version: angle.version, ...what } })))
const again = (angle: Angle) => done(got(api.POST('/api/recordings/{recording_id}/angles/{number}/step', { params: of(angle) })))
async function remove(angle: Angle) {
  if (await sureToDelete(`Take “${angle.name}” away?`, 'Clips that show it show the first camera then. A recording that has a desk of its own stays.', 'Take away'))
    await done(got(api.DELETE('/api/recordings/{recording_id}/angles/{number}', { params: of(angle) })))
}
const films: Record<number, HTMLVideoElement | null> = {}
/** What the film shows now and what the recording is at are one moment. */
const same = (angle: Angle) => change(angle, { offset: props.time - (films[angle.number]?.currentTime ?? 0) })
/** How its clock runs beside that of the recording. */
function clockOf(angle: Angle): string {
  const ppm = Math.round(Math.abs(angle.drift) * 1e6)
  return ppm ? `its clock is ${ppm} ppm ${angle.drift > 0 ? 'slow' : 'fast'}` : 'their clocks agree'
}
const began = (angle: Angle) => `Begins ${clock(Math.abs(angle.offset ?? 0))} ${(angle.offset ?? 0) < 0 ? 'before' : 'after'} this one; ${clockOf(angle)}.`
const at = (angle: Angle) => secondOf({ offset: angle.offset ?? 0, drift: angle.drift }, props.time)
const most = computed(() => 1000 * (choices.value?.longest_nudge ?? 0)) // ms
const NUDGE = 10 // ms, by one press
</script>

<template>
  <div class="cameras" data-test="cameras">
    <p v-if="!angles?.length" class="quiet">Was this talk filmed twice, or recorded with a better microphone? Bring that in here: it is put in step by its sound, and clips can change between them.</p>
    <ul>
      <li v-for="each in angles" :key="each.number" data-test="camera">
        <header>
          <b>{{ each.number }}</b>
          <input :value="each.name" :aria-label="`Name of camera ${each.number}`" maxlength="120" @change="change(each, { name: ($event.target as HTMLInputElement).value })">
          <el-button text size="small" @click="remove(each)">Take away…</el-button>
        </header>
        <video v-if="each.playable && each.has_picture && each.offset !== null" :src="`/api/recordings/${each.film}/files/working#t=${at(each).toFixed(2)}`" muted preload="metadata" playsinline></video>
        <p v-if="each.jobs.find(active)" class="quiet" role="status">{{ each.jobs.find(active)!.stage || 'Waiting…' }}</p>
        <p v-else-if="each.jobs.find((job) => job.error)" class="alarm">{{ each.jobs.find((job) => job.error)!.error }}</p>
        <template v-if="each.offset !== null">
          <p class="quiet">{{ began(each) }}</p>
          <p class="nudge">Nudge <el-input-number :model-value="Math.round(each.nudge * 1000)" size="small" :step="NUDGE" :min="-most" :max="most" :aria-label="`Nudge of camera ${each.number} in milliseconds`" @change="change(each, { nudge: ($event ?? 0) / 1000 })" /> ms later</p>
        </template>
        <template v-else-if="each.told">
          <p class="alarm" role="status">{{ each.told }}</p>
        </template>
        <p v-else-if="!each.jobs.find(active)" class="quiet" role="status">Waits to be put in step…</p>
        <details v-if="each.playable && (each.told || each.offset !== null)">
          <summary>Put it in step by hand, or listen again</summary>
          <p class="quiet">Stop this film at a clap or a word, and the recording above at the same one.</p>
          <video :ref="(film) => (films[each.number] = film as HTMLVideoElement | null)" :src="`/api/recordings/${each.film}/files/working`" controls preload="metadata" playsinline></video>
          <span class="row">
            <el-button size="small" @click="same(each)">These two are the same moment</el-button>
            <el-button v-if="each.has_sound" size="small" @click="again(each)">Listen again</el-button>
          </span>
        </details>
      </li>
    </ul>
    <UploadLine v-for="entry in uploads.list.value" :key="entry.key" :entry="entry" @pause="uploads.pause(entry)" @go-on="uploads.goOn(entry)" @cancel="uploads.cancel(entry)" />
    <input ref="chooser" type="file" accept="video/*,audio/*,.mkv,.mxf" hidden data-test="camera-file" @change="bringIn(chooser?.files)">
    <span class="row">
      <el-button size="small" type="primary" @click="chooser?.click()">Bring in another camera…</el-button>
      <el-button size="small" @click="adding = !adding">From your recordings…</el-button>
    </span>
    <p v-for="each in heard" :key="each.id" class="heard" data-test="heard">The same is said in “{{ each.title }}”. <el-button size="small" @click="use(each.id)">Use it as a camera</el-button></p>
    <div v-if="adding" class="offered">
      <button v-for="each in offered" :key="each.id" class="link" @click="use(each.id)">{{ each.title }} <span class="quiet">{{ clock(each.duration, false) }}{{ each.heard ? ', the same is said' : '' }}</span></button>
      <p v-if="offered && !offered.length" class="quiet">There is no other recording.</p>
    </div>
    <p v-if="recording?.background" class="quiet kept" data-test="kept-background">
      Its clips show a background of yours in the place of the screen behind who speaks, unless they say otherwise.
      <el-button size="small" :loading="keeping" @click="takeOff">As filmed again</el-button>
    </p>
  </div>
</template>

<style scoped>
.heard { margin: 0; font-size: 14px; }
.kept .el-button { display: block; margin: 6px 0 0; }
.cameras { display: flex; flex-direction: column; gap: 10px; padding-top: 6px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; flex-direction: column; gap: 6px; padding: 10px 0; border-bottom: 1px solid var(--rule); }
header, .row { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
header input { flex: 1; min-width: 0; padding: 3px 6px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: inherit; }
video { width: 100%; max-height: 140px; border-radius: 4px; background: var(--ink); object-fit: contain; }
p { margin: 0; font-size: 13px; }
.row .el-button { margin: 0; }
summary { color: var(--ink-2); font-size: 13px; cursor: pointer; }
details > * + * { margin-top: 6px; }
.nudge { display: flex; gap: 8px; align-items: center; }
.offered { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; }
</style>
