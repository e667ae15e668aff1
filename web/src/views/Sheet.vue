<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useMediaQuery } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { computed, ref, toRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import BringInLine from '@/components/BringInLine.vue'
import ExportDrawer from '@/components/ExportDrawer.vue'
import HistoryDrawer from '@/components/HistoryDrawer.vue'
import Ruler from '@/components/Ruler.vue'
import SheetRows from '@/components/SheetRows.vue'
import Transport from '@/components/Transport.vue'
import { clock } from '@/composables/format'
import { wordRefs, type Token, type WordRef } from '@/composables/tokens'
import type { Word } from '@/composables/transcript'
import { useChoices } from '@/composables/useChoices'
import { tellError } from '@/composables/tell'
import { useCutting } from '@/composables/useCutting'
import { useDocument } from '@/composables/useDocument'
import { usePlayer } from '@/composables/usePlayer'
import { busy, cancelJob, prepareAgain } from '@/composables/useRecording'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const router = useRouter()
const sheet = useDocument()
const { doc, plan, edit, sweep } = sheet
const choices = useChoices()

const first = useQuery({
  queryKey: ['document', id],
  queryFn: () => got(api.GET('/api/documents/{document_id}', { params: { path: { document_id: id.value } } })),
  staleTime: Infinity,
  gcTime: 0,
})
watch(first.data, (loaded) => { if (loaded) sheet.opened(loaded) }, { immediate: true })

const recordingId = computed(() => first.data.value?.recording)
const recording = useQuery({
  queryKey: ['recording', recordingId],
  queryFn: () => got(api.GET('/api/recordings/{recording_id}', { params: { path: { recording_id: recordingId.value! } } })),
  enabled: () => !!recordingId.value,
  refetchInterval: (query) => (query.state.data?.playable === false && busy(query.state.data) ? 1500 : false),
})
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
const fonts = computed(() => (choices.value?.fonts ?? []).map((file) => `/static/fonts/${file}`))
const player = usePlayer({ plan, url, picture, words: letters, fonts })
const { chosen, cut, bringBack, undo, redo } = useCutting(sheet, rows, player.toggle)
const hasWords = computed(() => chosen.value.some((token) => token.kind === 'word'))
const narrow = useMediaQuery('(width < 900px)')
const low = useMediaQuery('(height < 760px)')
const picturing = ref(false) // where there is no room for it beside the rows, the stage is a drawer
const history = ref(false)
/** The words that are about to be moved, while their new place is being chosen. */
const held = ref<[WordRef, WordRef] | null>(null)

useCommands(() => [
  { id: 'correct', label: 'Correct', keys: ['Enter'], enabled: () => hasWords.value, run: () => rows.value?.edit() },
  { id: 'export', label: 'Export', keys: ['X'], enabled: () => !!doc.value, run: () => openDrawer('export') },
  { id: 'to-front', label: 'Move to front', keys: ['Ctrl+Home'], enabled: () => hasWords.value, run: () => moveTo('front') },
  { id: 'hold', label: 'Move before…', keys: ['Ctrl+X'], enabled: () => hasWords.value, run: () => moveTo('before') },
  { id: 'put', label: 'Put here', keys: ['Ctrl+V'], enabled: () => held.value !== null && hasWords.value, run: () => put(chosen.value) },
  ...(held.value ? [{ id: 'leave', label: 'Leave it where it is', keys: ['Escape'], run: () => (held.value = null) }] : []),
  { id: 'history', label: 'History', keys: ['H'], enabled: () => !!doc.value, run: () => openDrawer('history') },
])

/** One drawer at a time; opened again it closes, and the focus goes back to the rows. */
function openDrawer(name: 'export' | 'history' | null) {
  exporting.value = name === 'export' && !exporting.value
  history.value = name === 'history' && !history.value
  if (!exporting.value && !history.value) rows.value?.focus()
}

/** Move the selected words to the front, repeat them there, or hold them until a place is chosen. */
function moveTo(where: 'front' | 'before' | 'repeat') {
  const refs = wordRefs(chosen.value)
  const front = doc.value?.rows[0]?.tokens.find((token) => token.word)
  if (!refs || !front) return
  if (where === 'before') held.value = refs
  else void sheet.move(...refs, { piece: front.piece, word: front.word!.id }, where === 'repeat').then(unselect)
}

/** What was selected stands elsewhere now. */
const unselect = () => rows.value?.clear()

/** Put the words that are held before the first of these. */
function put(tokens: Token[]) {
  const place = wordRefs(tokens)
  if (!held.value || !place) return
  void sheet.move(...held.value, place[0]).then(unselect)
  held.value = null
}

function rewrite(changing: Word[], text: string) {
  void sheet.correct({ type: 'rewrite', changes: [{ words: changing.map((word) => word.id), text }], fresh: 0 })
}

const exporting = ref(false)
const over = computed(() => !!doc.value && doc.value.seconds > doc.value.outlet.longest)
const shape = computed(() => (doc.value ? doc.value.plan.width / doc.value.plan.height : 9 / 16))
const stage = computed(() => {
  const height = Math.min(low.value ? 340 : 468, (narrow.value ? 240 : 250) / shape.value)
  return { width: `${Math.round(height * shape.value)}px`, height: `${Math.round(height)}px` }
})

async function rename() {
  const answer = await ElMessageBox.prompt('Title', 'Rename clip', {
    inputValue: doc.value?.title,
    inputPattern: /\S/,
    inputErrorMessage: 'A clip needs a title.',
    confirmButtonText: 'Rename',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  if (answer) await sheet.rename((answer as { value: string }).value.trim())
}

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await recording.refetch()
}

async function remove() {
  const sure = await ElMessageBox.confirm('Delete this clip and its exports? The recording and its cuts stay.', 'Delete clip', {
    confirmButtonText: 'Delete',
    cancelButtonText: 'Cancel',
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
    <h1 v-if="doc" class="name"><button class="title" title="Rename" @click="rename">{{ doc.title }}</button></h1>
    <span v-if="doc" class="time length" :class="{ alarm: over }" data-test="length">
      {{ clock(doc.seconds) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <el-button v-if="narrow" :aria-expanded="picturing" @click="picturing = !picturing">Picture</el-button>
    <el-select
      v-if="doc" :model-value="doc.sheet.outlet" aria-label="Outlet" class="outlet"
      @change="(outlet: string) => edit([{ type: 'set_outlet', outlet }])"
    >
      <el-option v-for="each in choices?.outlets" :key="each.key" :label="each.name" :value="each.key" />
    </el-select>
    <el-button type="primary" :disabled="!doc" title="Export (X)" @click="openDrawer('export')">Export</el-button>
  </Teleport>
  <p v-if="first.error.value" class="lost" role="alert">
    {{ first.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-else class="sheet">
    <div v-if="narrow && picturing" class="drawer-shade" @click="picturing = false"></div>
    <div class="left" :class="{ drawer: narrow, open: picturing }">
      <div class="stage" :style="stage">
        <canvas ref="picture" :width="Math.round(540 * Math.min(1, shape / 0.5625))" :height="Math.round(540 * Math.min(1, shape / 0.5625) / shape)" data-test="picture"></canvas>
        <canvas ref="letters" :style="stage" data-test="captions"></canvas>
      </div>
      <BringInLine
        v-if="recording.data.value && !recording.data.value.playable" :jobs="recording.data.value.jobs.filter((job) => job.kind === 'prepare')"
        name="Preview" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(recording.data.value))"
      />
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
          <el-option v-for="(name, key) in choices?.captions" :key="key" :label="name" :value="key" />
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
        <el-button :disabled="!hasWords" title="Correct the selected words (Enter)" @click="rows?.edit()">Correct</el-button>
        <el-dropdown trigger="click" :disabled="!hasWords" @command="moveTo">
          <el-button :disabled="!hasWords">Move</el-button>
          <template #dropdown>
            <el-dropdown-menu>
              <el-dropdown-item command="front">Move to front (Ctrl+Home)</el-dropdown-item>
              <el-dropdown-item command="before">Move before… (Ctrl+X, then Ctrl+V)</el-dropdown-item>
              <el-dropdown-item command="repeat">Repeat at front</el-dropdown-item>
            </el-dropdown-menu>
          </template>
        </el-dropdown>
        <span class="sep" />
        <el-button :disabled="!sheet.canUndo.value" :title="sheet.canUndo.value ? 'Undo (Ctrl+Z)' : 'Nothing to undo since you opened this; the history reaches further'" @click="undo">Undo</el-button>
        <el-button :disabled="!doc?.can_redo" title="Redo (Ctrl+Shift+Z)" @click="redo">Redo</el-button>
        <el-button text :disabled="!doc" title="All changes, and back to any of them (H)" @click="openDrawer('history')">History</el-button>
        <span class="sep" />
        <el-button :disabled="!doc || !choices" @click="sweep({ kinds: choices!.sweep_kinds, leave: [], instead: [] })">Sweep</el-button>
        <span class="grow" />
        <span v-if="!exporting && !history" class="quiet keys">Space plays · Delete cuts · B brings back · Enter corrects · X exports</span>
      </div>
      <p v-if="held" class="held" role="status">
        Click the word before which this should stand, or select it and press Ctrl+V.
        <el-button size="small" @click="held = null">Cancel</el-button>
      </p>
      <SheetRows
        v-if="doc && choices" ref="rows" :doc="doc" :time="player.time.value" :placing="held !== null" :playing="player.playing.value" :peaks="peaks.data.value ?? null" :choices="choices"
        @go="player.seek($event + 1e-4)" @place="put([$event])" @selected="chosen = $event" @rewrite="rewrite" @correct="sheet.correct"
      />
      <p v-else class="lost quiet" role="status">Reading the clip…</p>
    </div>
    <ExportDrawer v-if="doc && exporting" class="right" :doc="doc" @close="openDrawer(null)" />
    <HistoryDrawer v-if="doc && history" class="right" :doc="doc" @back="sheet.goBack" @close="openDrawer(null)" />
    <Ruler
      v-if="doc && recording.data.value" class="bottom" :doc="doc" :time="player.time.value" :duration="recording.data.value.duration"
      :thumbs="recording.data.value.media?.has_picture ? `${files}/thumbs` : null" @seek="player.seek"
    />
  </div>
</template>

<style scoped>
.sheet { position: relative; display: grid; grid-template: minmax(0, 1fr) auto / 290px minmax(0, 1fr) auto; height: 100%; overflow: hidden; }
.left { display: flex; flex-direction: column; gap: 12px; padding: 16px 20px; border-right: 1px solid var(--rule); overflow: hidden auto; }
.stage { position: relative; margin: 0 auto; background: var(--ink); border-radius: 4px; overflow: hidden; flex: none; }
.stage canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
.choices { display: flex; gap: 8px; align-items: center; font-size: 14px; }
.middle { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
.grow { flex: 1; }
.keys { font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.middle > .rows { flex: 1; min-height: 0; }
.right { width: 320px; border-left: 1px solid var(--rule); }
.bottom { grid-column: 1 / -1; grid-row: 2; }
.outlet { width: 140px; }
.crumb { max-width: 220px; overflow: hidden; color: var(--ink-2); text-overflow: ellipsis; white-space: nowrap; }
.name { min-width: 0; font-size: inherit; }
.title { max-width: 320px; padding: 0; overflow: hidden; border: 0; background: none; font-weight: 600; text-overflow: ellipsis; white-space: nowrap; cursor: text; }
.length { white-space: nowrap; }
.held { display: flex; gap: 10px; align-items: center; margin: 0; padding: 6px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.lost { padding: 60px; text-align: center; }
@media (width < 1400px) {
  .keys { display: none; }
}
@media (width < 1180px) {
  .sheet { grid-template-columns: 250px minmax(0, 1fr); }
  .left { padding: 12px; }
  .bar { padding: 8px 12px; }
  .right { position: absolute; top: 0; right: 0; bottom: 69px; z-index: 10; width: min(320px, 100%); }
  .crumb, .title { max-width: 160px; }
}
@media (width < 900px) {
  .sheet { grid-template-columns: minmax(0, 1fr); }
  .left.drawer { position: absolute; top: 0; left: 0; bottom: 0; z-index: 30; width: min(290px, 92%); background: var(--paper); visibility: hidden; }
  .left.drawer.open { visibility: visible; }
  .bar { padding: 4px 8px; }
  .bar .el-button { padding: 4px 7px; }
  .outlet { width: 104px; }
  .crumb { display: none; }
  .title { max-width: 90px; }
}
</style>
