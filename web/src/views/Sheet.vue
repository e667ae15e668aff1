<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { ElMessageBox } from 'element-plus'
import { computed, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, got } from '@/api/client'
import ExportDrawer from '@/components/ExportDrawer.vue'
import Ruler from '@/components/Ruler.vue'
import SheetRows from '@/components/SheetRows.vue'
import Transport from '@/components/Transport.vue'
import { clock } from '@/composables/format'
import { tellError } from '@/composables/tell'
import { useCutting } from '@/composables/useCutting'
import { useDocument } from '@/composables/useDocument'
import { usePlayer } from '@/composables/usePlayer'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const router = useRouter()
const sheet = useDocument()
const { doc, plan, edit, undo, redo, sweep } = sheet

const first = useQuery({
  queryKey: ['document', id],
  queryFn: () => got(api.GET('/api/documents/{document_id}', { params: { path: { document_id: id.value } } })),
  staleTime: Infinity,
  gcTime: 0,
})
watch(first.data, (loaded) => { if (loaded) doc.value = loaded }, { immediate: true })

const recordingId = computed(() => first.data.value?.recording)
const recording = useQuery({
  queryKey: ['recording', recordingId],
  queryFn: () => got(api.GET('/api/recordings/{recording_id}', { params: { path: { recording_id: recordingId.value! } } })),
  enabled: () => !!recordingId.value,
  refetchInterval: (query) => (query.state.data?.playable === false ? 1500 : false),
})
const choices = useQuery({ queryKey: ['choices'], queryFn: () => got(api.GET('/api/documents/choices')), staleTime: Infinity })
const files = computed(() => `/api/recordings/${recordingId.value}/files`)
const peaks = useQuery({
  queryKey: ['peaks', recordingId],
  queryFn: async () => {
    const answer = await fetch(`${files.value}/peaks`)
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : null
  },
  enabled: () => !!recordingId.value,
  staleTime: Infinity,
})

const rows = ref<InstanceType<typeof SheetRows> | null>(null)
const picture = ref<HTMLCanvasElement | null>(null)
const letters = ref<HTMLCanvasElement | null>(null)
const url = computed(() => (recording.data.value?.playable ? `${files.value}/working` : null))
const fonts = computed(() => (choices.data.value?.fonts ?? []).map((file) => `/static/fonts/${file}`))
const player = usePlayer({ plan, url, picture, words: letters, fonts })
const { chosen, cut, bringBack } = useCutting(sheet, rows, player.toggle)

const exporting = ref(false)
const over = computed(() => !!doc.value && doc.value.seconds > doc.value.outlet.longest)
const shape = computed(() => (doc.value ? doc.value.plan.width / doc.value.plan.height : 9 / 16))
const stage = computed(() => {
  const height = Math.min(468, 300 / shape.value)
  return { width: `${Math.round(height * shape.value)}px`, height: `${Math.round(height)}px` }
})

async function rename() {
  const answer = await ElMessageBox.prompt('Title of the clip', {
    inputValue: doc.value?.title,
    inputPattern: /\S/,
    inputErrorMessage: 'A clip needs a title.',
    confirmButtonText: 'Rename',
  }).catch(() => null)
  if (!answer) return
  try {
    const renamed = await got(
      api.PATCH('/api/documents/{document_id}', { params: { path: { document_id: props.id } }, body: { title: (answer as { value: string }).value } }),
    )
    if (doc.value) doc.value = { ...doc.value, title: renamed.title }
  } catch (error) {
    tellError(error)
  }
}

async function remove() {
  const sure = await ElMessageBox.confirm('Delete this clip and its exports? The recording and its cuts stay.', {
    confirmButtonText: 'Delete',
    cancelButtonText: 'Keep',
  }).catch(() => null)
  if (!sure) return
  try {
    await got(api.DELETE('/api/documents/{document_id}', { params: { path: { document_id: props.id } } }))
    await router.push({ name: 'desk', params: { id: recordingId.value } })
  } catch (error) {
    tellError(error)
  }
}
</script>

<template>
  <Teleport defer to="#crumbs">
    <RouterLink v-if="recording.data.value" :to="{ name: 'desk', params: { id: recording.data.value.id } }" class="crumb">
      {{ recording.data.value.title }}
    </RouterLink>
    <button v-if="doc" class="title" title="Rename" @click="rename">{{ doc.title }}</button>
    <span v-if="doc" class="time length" :class="{ alarm: over }" data-test="length">
      {{ clock(doc.seconds) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <el-select
      v-if="doc" :model-value="doc.sheet.outlet" aria-label="Outlet" style="width: 140px"
      @change="(outlet: string) => edit([{ type: 'set_outlet', outlet }])"
    >
      <el-option v-for="each in choices.data.value?.outlets" :key="each.key" :label="each.name" :value="each.key" />
    </el-select>
    <el-button type="primary" :disabled="!doc" @click="exporting = !exporting">Export</el-button>
  </Teleport>
  <p v-if="first.error.value" class="lost" role="alert">
    {{ first.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-else class="sheet">
    <div class="left">
      <div class="stage" :style="stage">
        <canvas ref="picture" :width="Math.round(540 * Math.min(1, shape / 0.5625))" :height="Math.round(540 * Math.min(1, shape / 0.5625) / shape)" data-test="picture"></canvas>
        <canvas ref="letters" :style="stage" data-test="captions"></canvas>
      </div>
      <Transport
        :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value"
        @toggle="player.toggle" @seek="player.seek"
      />
      <div class="choices">
        <span>Captions</span>
        <el-select
          v-if="doc" :model-value="doc.sheet.captions ?? 'none'" size="small" aria-label="Captions" style="width: 110px"
          @change="(style: string) => edit([{ type: 'set_captions', captions: style === 'none' ? null : style }])"
        >
          <el-option v-for="(name, key) in choices.data.value?.captions" :key="key" :label="name" :value="key" />
          <el-option label="None" value="none" />
        </el-select>
        <span class="grow" />
        <el-button text size="small" @click="remove">Delete clip</el-button>
      </div>
    </div>
    <div class="middle">
      <div class="bar" role="toolbar" aria-label="Editing">
        <el-button :disabled="!chosen.length" title="Cut (Delete)" @click="cut">Cut</el-button>
        <el-button :disabled="!chosen.length" title="Bring back (B)" @click="bringBack">Bring back</el-button>
        <span class="sep" />
        <el-button :disabled="!doc?.can_undo" title="Undo (Ctrl+Z)" @click="undo">Undo</el-button>
        <el-button :disabled="!doc?.can_redo" title="Redo (Ctrl+Shift+Z)" @click="redo">Redo</el-button>
        <span class="sep" />
        <el-button :disabled="!doc" @click="sweep({ kinds: ['filler', 'pause'], leave: [], instead: [] })">Sweep</el-button>
        <span class="grow" />
        <span v-if="!exporting" class="quiet keys">Space plays · Delete cuts · B brings back</span>
      </div>
      <SheetRows
        v-if="doc" ref="rows" :doc="doc" :source="player.source.value" :playing="player.playing.value" :peaks="peaks.data.value ?? null"
        @go="player.seekSource" @selected="chosen = $event"
      />
    </div>
    <ExportDrawer v-if="doc && exporting" class="right" :doc="doc" @close="exporting = false" />
    <Ruler
      v-if="doc && recording.data.value" class="bottom" :doc="doc" :time="player.time.value" :duration="recording.data.value.duration"
      :thumbs="recording.data.value.media?.has_picture ? `${files}/thumbs` : null" @seek="player.seek"
    />
  </div>
</template>

<style scoped>
.sheet { display: grid; grid-template: minmax(0, 1fr) auto / 340px minmax(0, 1fr) auto; height: 100%; }
.left { display: flex; flex-direction: column; gap: 12px; padding: 16px 20px; border-right: 1px solid var(--rule); overflow: hidden; }
.stage { position: relative; margin: 0 auto; background: var(--ink); border-radius: 4px; overflow: hidden; flex: none; }
.stage canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
.choices { display: flex; gap: 8px; align-items: center; font-size: 14px; }
.middle { display: flex; flex-direction: column; min-height: 0; }
.bar { display: flex; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 12px; }
.grow { flex: 1; }
.keys { font-size: 12px; white-space: nowrap; overflow: hidden; }
.middle > .rows { flex: 1; min-height: 0; }
.right { width: 320px; border-left: 1px solid var(--rule); }
.bottom { grid-column: 1 / -1; }
.crumb { max-width: 220px; overflow: hidden; color: var(--ink-2); text-overflow: ellipsis; white-space: nowrap; }
.title { max-width: 320px; padding: 0; overflow: hidden; border: 0; background: none; font-weight: 600; text-overflow: ellipsis; white-space: nowrap; cursor: text; }
.length { white-space: nowrap; }
.lost { padding: 60px; text-align: center; }
</style>
