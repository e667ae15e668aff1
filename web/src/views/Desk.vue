<script setup lang="ts">
import { computed, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, got } from '@/api/client'
import JobLine from '@/components/JobLine.vue'
import Spine from '@/components/Spine.vue'
import SweepPanel from '@/components/SweepPanel.vue'
import TranscriptPage from '@/components/TranscriptPage.vue'
import Transport from '@/components/Transport.vue'
import { clock } from '@/composables/format'
import { tellError } from '@/composables/tell'
import { useCutting } from '@/composables/useCutting'
import { useDocument } from '@/composables/useDocument'
import { usePlayer } from '@/composables/usePlayer'
import { active, busy, cancelJob, prepareAgain, useRecording } from '@/composables/useRecording'

const props = defineProps<{ id: string }>()
const router = useRouter()
const id = toRef(props, 'id')
const { recording, transcript, refresh } = useRecording(id)
const sheet = useDocument()
const { doc, plan, undo, redo, sweep } = sheet

const page = ref<InstanceType<typeof TranscriptPage> | null>(null)
const picture = ref<HTMLCanvasElement | null>(null)
const looking = ref(false)

const now = computed(() => recording.data.value)
const url = computed(() => (now.value?.playable ? `/api/recordings/${props.id}/files/working` : null))
const shape = computed(() => {
  const media = now.value?.media
  return media?.has_picture && media.height ? (media.width ?? 16) / media.height : 16 / 9
})
const player = usePlayer({ plan, url, picture })
const { chosen, cut, bringBack } = useCutting(sheet, page, player.toggle)

watch(
  () => transcript.data.value?.complete && now.value?.words_ready,
  async (complete) => {
    if (!complete || doc.value) return
    try {
      doc.value = await got(api.GET('/api/documents/desk/{recording_id}', { params: { path: { recording_id: props.id } } }))
    } catch (error) {
      tellError(error)
    }
  },
  { immediate: true },
)

const words = computed(() => chosen.value.filter((token) => token.kind === 'word'))

/** Hear a find as it is now, from a little before it. */
function hear(seconds: number) {
  player.seekSource(Math.max(seconds - 1.5, 0))
  if (!player.playing.value) player.toggle()
}

async function makeClip() {
  const first = words.value[0]
  const last = words.value.at(-1)
  if (first?.kind !== 'word' || last?.kind !== 'word') return
  try {
    const clip = await got(
      api.POST('/api/documents/desk/{recording_id}/clips', {
        params: { path: { recording_id: props.id } },
        body: { first: first.word.id, last: last.word.id },
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

const saved = computed(() => (doc.value ? doc.value.uncut - doc.value.seconds : 0))
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
      v-if="now" :duration="now.duration" :skyline="now.skyline" :plan="plan" :clips="now.clips" :source="player.source.value"
      @go="player.seekSource"
    />
    <div class="middle">
      <div class="bar" role="toolbar" aria-label="Editing">
        <el-button :disabled="!doc || !chosen.length" title="Cut (Delete)" @click="cut">Cut</el-button>
        <el-button :disabled="!doc || !chosen.length" title="Bring back (B)" @click="bringBack">Bring back</el-button>
        <span class="sep" />
        <el-button :disabled="!doc?.can_undo" title="Undo (Ctrl+Z)" @click="undo">Undo</el-button>
        <el-button :disabled="!doc?.can_redo" title="Redo (Ctrl+Shift+Z)" @click="redo">Redo</el-button>
        <span class="grow" />
        <span v-if="doc && words.length > 1" class="quiet">{{ words.length }} words selected</span>
        <el-button type="primary" :disabled="!doc || !words.length" @click="makeClip">Make clip</el-button>
      </div>
      <p v-if="recording.error.value" class="state alarm" role="alert">
        {{ recording.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
      </p>
      <template v-if="now && busy(now)">
        <div v-for="job in now.jobs.filter(active)" :key="job.id" class="state">
          <JobLine :job="job" @cancel="act(cancelJob(job))" @retry="act(prepareAgain(now))" />
        </div>
      </template>
      <template v-else-if="now">
        <div v-for="job in now.jobs.filter((each) => each.state === 'failed' || each.state === 'cancelled')" :key="job.id" class="state">
          <JobLine :job="job" @retry="act(prepareAgain(now))" />
        </div>
      </template>
      <p v-if="now?.notice" class="state">{{ now.notice }}</p>
      <TranscriptPage
        v-if="transcript.data.value?.words.length" ref="page" :transcript="transcript.data.value" :doc="doc"
        :source="player.source.value" :playing="player.playing.value"
        @go="player.seekSource" @selected="chosen = $event"
      />
      <p v-else-if="now && busy(now)" class="empty quiet">The first words appear here as soon as they are heard.</p>
      <p v-else-if="transcript.data.value?.complete" class="empty quiet">There are no words in this recording.</p>
    </div>
    <aside>
      <div class="stage">
        <canvas ref="picture" width="640" :height="Math.round(640 / shape)" :style="{ aspectRatio: shape }"></canvas>
        <span v-if="now?.media && !now.media.has_picture" class="nopicture">Sound only</span>
        <span v-else-if="now && !now.playable" class="nopicture">The picture is being prepared…</span>
      </div>
      <Transport
        :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value"
        @toggle="player.toggle" @seek="player.seek"
      />
      <SweepPanel :doc="doc" :sweep="sweep" @hear="hear" @open="looking = $event" />
      <section v-if="!looking">
        <h2>Clips</h2>
        <p v-if="!now?.clips.length" class="quiet">Drag over a passage worth sharing, then press <b>Make clip</b>.</p>
        <ul v-else>
          <li v-for="clip in now.clips" :key="clip.id">
            <RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink>
            <span class="time quiet">{{ clock(clip.start, false) }}</span>
          </li>
        </ul>
      </section>
      <p class="keys quiet">Space plays · arrows move, with Shift they select · Delete cuts · B brings back</p>
    </aside>
  </div>
</template>

<style scoped>
.desk { display: grid; grid-template-columns: 56px minmax(0, 1fr) 320px; height: 100%; }
.title { overflow: hidden; font-size: 16px; text-overflow: ellipsis; white-space: nowrap; }
.middle { display: flex; flex-direction: column; min-height: 0; border-right: 1px solid var(--rule); }
.middle > .frame { flex: 1; }
.bar { display: flex; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 12px; }
.grow { flex: 1; }
.state { margin: 0; padding: 8px 28px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.empty { padding: 60px; text-align: center; }
aside { display: flex; flex-direction: column; gap: 14px; padding: 16px; overflow-y: auto; }
.stage { position: relative; flex: none; background: var(--ink); border-radius: 4px; overflow: hidden; }
.stage canvas { display: block; width: 100%; }
.nopicture { position: absolute; inset: 0; display: grid; place-items: center; color: #c9cdd5; font-size: 14px; }
section { padding-top: 12px; border-top: 1px solid var(--rule); }
section p { margin: 4px 0 10px; font-size: 14px; }
ul { margin: 6px 0 0; padding: 0; list-style: none; }
li { display: flex; gap: 8px; justify-content: space-between; padding: 3px 0; font-size: 14px; }
.keys { margin: auto 0 0; font-size: 12px; }
</style>
