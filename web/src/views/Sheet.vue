<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useMediaQuery } from '@vueuse/core'
import { computed, provide, ref, toRef, watch } from 'vue'
import { api, got } from '@/api/client'
import CommandButton from '@/commands/CommandButton.vue'
import CommandMenu from '@/commands/CommandMenu.vue'
import { useCommands } from '@/commands/registry'
import AddDrawer from '@/components/AddDrawer.vue'
import CaptionsDrawer from '@/components/CaptionsDrawer.vue'
import BringInLine from '@/components/BringInLine.vue'
import DressingDialog from '@/components/DressingDialog.vue'
import HouseDialog from '@/components/HouseDialog.vue'
import EditionsDialog from '@/components/EditionsDialog.vue'
import ShapesDialog from '@/components/ShapesDialog.vue'
import ExportDrawer from '@/components/ExportDrawer.vue'
import HistoryDrawer from '@/components/HistoryDrawer.vue'
import LayerDrawer from '@/components/LayerDrawer.vue'
import MarkersDrawer from '@/components/MarkersDrawer.vue'
import Ruler from '@/components/Ruler.vue'
import ShelfDrawer from '@/components/ShelfDrawer.vue'
import HookDrawer from '@/components/HookDrawer.vue'
import SuggestDrawer from '@/components/SuggestDrawer.vue'
import SheetRows from '@/components/SheetRows.vue'
import Stage from '@/components/Stage.vue'
import Transport from '@/components/Transport.vue'
import TrimDrawer from '@/components/TrimDrawer.vue'
import { clock } from '@/composables/format'
import { wordRefs, type WordRef } from '@/composables/tokens'
import type { Word } from '@/composables/transcript'
import type { CaptionStyle } from '@/composables/useStyles'
import { useChoices } from '@/composables/useChoices'
import { tell, tellError } from '@/composables/tell'
import { useClip } from '@/composables/useClip'
import { useCutting } from '@/composables/useCutting'
import { useDocument, type Content } from '@/composables/useDocument'
import { dressIn, newerOf, useHouse, type House } from '@/composables/useHouse'
import { useLaying } from '@/composables/useLaying'
import { useMoving } from '@/composables/useMoving'
import { usePeaks } from '@/composables/usePeaks'
import { keepShapes } from '@/composables/useShapes'
import { usePieces } from '@/composables/usePieces'
import { usePlayPart } from '@/composables/usePlayPart'
import { usePlayer } from '@/composables/usePlayer'
import { busy, cancelJob, jobsOf, prepareAgain } from '@/composables/useRecording'
import { useTrimming } from '@/composables/useTrimming'
import { commandOf, OFFERS, type Group } from '@/lanes/kinds'
import { seenAt } from '@/lanes/seen'
import { STAGE } from '@/lanes/stage'
import { fps } from '@/player/timeline'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const sheet = useDocument()
const { doc, plan, edit, sweep, ask } = sheet
const choices = useChoices()

const first = useQuery({
  queryKey: ['document', id],
  queryFn: () => got(api.GET('/api/documents/{document_id}', { params: { path: { document_id: id.value } } })),
  staleTime: Infinity,
  gcTime: 0,
})
watch(first.data, (loaded) => { if (loaded) sheet.opened(loaded) }, { immediate: true })

const sources = computed(() => doc.value?.sources ?? [])
const home = computed(() => sources.value[0] ?? null) // the recording that the clip began with
/** While a recording of the clip is still being prepared: how far that is. */
const unready = computed(() => sources.value.find((each) => !each.playable)?.id)
const preparing = useQuery({
  queryKey: ['recording', unready],
  queryFn: () => got(api.GET('/api/recordings/{recording_id}', { params: { path: { recording_id: unready.value! } } })),
  enabled: () => !!unready.value,
  refetchInterval: (query) => (query.state.data?.playable === false && busy(query.state.data) ? 1500 : false),
})
watch(() => preparing.data.value?.playable, (playable) => { if (playable) void sheet.show(doc.value?.edition) })

const peaks = usePeaks(sources)
const rows = ref<InstanceType<typeof SheetRows> | null>(null)
const stage = ref<InstanceType<typeof Stage> | null>(null)
const picture = computed(() => stage.value?.picture ?? null)
const letters = computed(() => stage.value?.words ?? null)
provide(STAGE, picture)
const fonts = computed(() => (choices.value?.fonts ?? []).map((file) => `/static/fonts/${file}`))
const player = usePlayer({ plan, sources, document: id, picture, words: letters, fonts })
const { chosen } = useCutting(sheet, rows, player.toggle)
const hasWords = computed(() => chosen.value.some((token) => token.kind === 'word'))
const refs = computed(() => wordRefs(chosen.value))
const narrow = useMediaQuery('(width < 900px)')
const picturing = ref(false) // where there is no room for it beside the rows, the stage is a drawer

/** What stands beside the rows, one at a time. */
type Drawer = 'export' | 'history' | 'layer' | 'trim' | 'add' | 'markers' | 'captions' | 'shelf' | 'suggest' | 'cuts' | 'hooks'
const drawer = ref<Drawer | null>(null)
const dialog = ref<'editions' | 'dressing' | 'house' | 'shapes' | null>(null)
const before = ref<WordRef | null>(null) // where what is added will stand; null: at the end

/** One drawer at a time; opened again it closes, and the focus goes back to the rows. */
function openDrawer(name: Drawer | null) {
  drawer.value = drawer.value === name ? null : name
  if (!drawer.value) rows.value?.focus()
}

const { held, moveTo, hookFirst, put, drop } = useMoving(sheet, refs, () => rows.value?.clear())
const { split, addGap } = usePieces(sheet, choices, refs, player.time)
const { copy, rename, remove } = useClip(id, sheet, home)
const playPart = usePlayPart(player)
const { trimmed, heard, hearEdge } = useTrimming(plan, player)
const { layer, own: openedLayer, drawn, openLayer, lay, card, show, closer, wording, change, setApart, nudge, remove: removeLayer, layOver, reach, barless } = useLaying(sheet, choices, refs, () => (drawer.value = 'layer'))
/** The thing whose settings are open: it can be moved on the stage. */
const movable = computed(() => (drawer.value === 'layer' && openedLayer.value && drawn.value ? { ...openedLayer.value, drawn: drawn.value.content } : null))

const guarded = ref(false) // the safe area is drawn on the stage
const chooseStyle = (captions: string | null, style: CaptionStyle | null) => edit([{ type: 'set_captions', captions, style }])
const findKeywords = () => void ask({ ask: 'find_keywords' })

/** Mark the selected words in the captions; no longer, where all of them are marked. */
function markWords() {
  const words = chosen.value.flatMap((token) => (token.kind === 'word' && token.placed ? [{ origin: token.placed.origin, word: token.word.id }] : []))
  const marked = new Set(doc.value?.sheet.keywords?.map((each) => `${each.origin} ${each.word}`))
  void edit([{ type: 'mark_keywords', words, marked: !words.every((each) => marked.has(`${each.origin} ${each.word}`)) }])
}

/** What of the recording is on the stage now. */
const seen = computed(() => {
  const now = plan.value
  return now ? seenAt(now, Math.round(player.time.value * fps(now)), (media) => sources.value.find((each) => each.id === media)) : undefined
})

/** Lay a framing that was chosen by hand over the selected words, or else over the phrase at the playhead. */
function pin(content: Content) {
  const row = doc.value?.rows.findLast((each) => each.at !== null && each.at <= player.time.value + 1e-3)
  const said = row?.tokens.flatMap((token) => (token.word && token.at !== null ? [{ origin: token.origin, word: token.word.id }] : [])) ?? []
  const [first, last] = refs.value ?? [said[0], said.at(-1)]
  if (first && last) void ask({ ask: 'lay', content, layer: null, edition: doc.value?.edition ?? null, first, last })
}

const BESIDES: Record<Group, string[]> = { screen: ['broll', 'suggest', 'title', 'header', 'slide'], picture: ['punch-at-cuts', 'cover-cuts'], sound: [], time: [], words: ['markers'] }
const LAYING = (Object.keys(BESIDES) as Group[]).map((group) => [...BESIDES[group], ...OFFERS.filter((each) => each.group === group).map(commandOf)])
const onWords = () => hasWords.value
const onAny = () => refs.value !== null
useCommands(() => [
  { id: 'correct', label: 'Correct the selected words', keys: ['Enter'], enabled: onWords, run: () => rows.value?.edit() },
  { id: 'export', label: 'Export', keys: ['X'], enabled: () => !!doc.value, run: () => openDrawer('export') },
  { id: 'history', label: 'History', keys: ['H'], enabled: () => !!doc.value, run: () => openDrawer('history') },
  { id: 'to-front', label: 'Move to front', keys: ['Ctrl+Home'], enabled: onAny, run: () => moveTo('front') },
  { id: 'hold-words', label: 'Move before…', keys: ['Ctrl+X'], enabled: onAny, run: () => moveTo('before') },
  { id: 'copy-words', label: 'Copy before…', keys: ['Ctrl+C'], enabled: onAny, run: () => moveTo('copy') },
  { id: 'repeat', label: 'Repeat at front', run: () => moveTo('repeat'), enabled: onAny },
  { id: 'put', label: 'Put here what is held', keys: ['Ctrl+V'], enabled: () => held.value !== null && onAny(), run: () => put(chosen.value) },
  ...(held.value ? [{ id: 'leave', label: 'Leave it where it is', keys: ['Escape'], run: () => (held.value = null) }] : []),
  { id: 'split', label: 'Split before the selected word, or at the playhead', keys: ['S'], enabled: () => !!doc.value, run: split },
  { id: 'trim', label: 'Trim this piece', keys: ['T'], enabled: () => !!doc.value, run: trim },
  { id: 'add', label: 'Add from a recording…', keys: ['A'], enabled: () => !!doc.value, run: addWords },
  { id: 'gap', label: 'Add a gap…', keys: ['G'], enabled: () => !!doc.value, run: () => void addGap() },
  ...OFFERS.map((offer) => ({ id: commandOf(offer), label: offer.label, keys: offer.keys, enabled: () => offer.over === 'clip' || onAny(), run: () => void lay(offer) })),
  { id: 'broll', label: 'Picture over the selected words…', keys: ['V'], enabled: onAny, run: () => openDrawer('shelf') },
  { id: 'hooks', label: 'Hook first: a line that opens the clip…', keys: ['Shift+F'], enabled: () => !!doc.value?.plan.frames, run: () => openDrawer('hooks') },
  { id: 'suggest', label: 'Suggest pictures for what is said…', keys: ['Shift+V'], enabled: () => !!doc.value?.plan.frames, run: () => openDrawer('suggest') },
  { id: 'cover-cuts', label: 'Cover the cuts…', enabled: () => !!doc.value?.plan.frames, run: () => openDrawer('cuts') },
  { id: 'title', label: 'Title over the selected words', keys: ['I'], enabled: onAny, run: () => void lay({ kind: 'title', group: 'screen', label: '', keys: [], over: 'words', content: { kind: 'title', text: titleText() } }) },
  { id: 'header', label: 'Header of the whole clip', enabled: () => !!doc.value, run: () => void lay({ kind: 'title', group: 'screen', label: '', keys: [], over: 'clip', content: { kind: 'title', template: 'header', text: doc.value!.title.slice(0, 160) } }) },
  { id: 'slide', label: 'Text slide over the selected words', keys: ['Shift+I'], enabled: onAny, run: () => void lay({ kind: 'slide', group: 'screen', label: '', keys: [], over: 'words', content: { kind: 'slide', text: titleText() } }) },
  { id: 'opening-card', label: 'A card at the beginning', enabled: () => !!doc.value, run: () => void card('beginning') },
  { id: 'end-card', label: 'A card at the end', enabled: () => !!doc.value, run: () => void card('end') },
  { id: 'punch-at-cuts', label: 'Punch in at every other cut', enabled: () => !!doc.value, run: () => void ask({ ask: 'punch_at_cuts', first: refs.value?.[0] ?? null, last: refs.value?.[1] ?? null }) },
  { id: 'safe-area', label: guarded.value ? 'Hide the safe area' : 'Show the safe area of the outlet', keys: ['Shift+S'], enabled: () => !!doc.value, run: () => (guarded.value = !guarded.value) },
  { id: 'compare', label: player.coloured.value ? 'Show colours as they were filmed' : 'Show colours as they are set', keys: ['Y'], run: () => (player.coloured.value = !player.coloured.value) },
  { id: 'next-marker', label: 'The next marker', keys: ['N'], run: () => toMarker(1) },
  { id: 'marker-before', label: 'The marker before', keys: ['Shift+N'], run: () => toMarker(-1) },
  { id: 'sweep', label: 'Sweep', enabled: () => !!doc.value && !!choices.value, run: () => void sweep({ kinds: choices.value!.sweep_kinds, leave: [], instead: [] }) },
  { id: 'markers', label: 'All markers', keys: ['Shift+M'], enabled: () => !!doc.value, run: () => openDrawer('markers') },
  { id: 'captions', label: 'Captions…', keys: ['Shift+C'], enabled: () => !!doc.value && !!choices.value, run: () => openDrawer('captions') },
  { id: 'keywords', label: 'Mark the selected words in the captions', keys: ['K'], enabled: onWords, run: markWords },
  { id: 'find-keywords', label: 'Mark one word in each phrase', enabled: () => !!doc.value, run: findKeywords },
  { id: 'editions', label: 'Editions…', keys: ['E'], enabled: () => !!doc.value, run: () => (dialog.value = 'editions') },
  { id: 'shapes', label: 'Shapes side by side…', keys: ['Shift+E'], enabled: () => !!doc.value, run: () => (dialog.value = 'shapes') },
  { id: 'house', label: 'House style…', keys: ['Shift+H'], enabled: () => !!doc.value, run: () => (dialog.value = 'house') },
  { id: 'copy-clip', label: 'Copy this clip', enabled: () => !!doc.value, run: () => void copy() },
  { id: 'delete-clip', label: 'Delete clip', enabled: () => !!doc.value, run: () => void remove() },
  { id: 'copy-dressing', label: 'Copy the dressing onto other clips…', enabled: () => !!doc.value, run: () => (dialog.value = 'dressing') },
])

const { houses } = useHouse()
const newer = computed(() => newerOf(doc.value, houses.value))
const dress = (house: House) => void dressIn(sheet, house)

/** What a title over the selected words says at first. */
const said = computed(() => chosen.value.flatMap((token) => (token.kind === 'word' ? [token.word.text] : [])).join(' ').slice(0, 160))
const media = computed(() => (doc.value?.sheet.layers ?? []).flatMap((each) => ('media' in each.content && each.content.media ? [each.content.media] : [])))
const titleText = () => said.value || doc.value!.title.slice(0, 160)

/** Trim the piece that is selected, or else the one being heard. */
function trim() {
  trimmed.value = chosen.value[0]?.placed?.piece ?? heard() ?? ''
  if (trimmed.value) openDrawer('trim')
}

function addWords() {
  before.value = refs.value?.[0] ?? null
  openDrawer('add')
}

function toMarker(step: 1 | -1) {
  const now = plan.value
  if (!now) return
  const at = player.time.value * fps(now)
  const markers = [...(now.markers ?? [])].sort((a, b) => a.first - b.first)
  const next = step > 0 ? markers.find((each) => each.first > at + 0.5) ?? markers[0] : markers.findLast((each) => each.first < at - 0.5) ?? markers.at(-1)
  if (!next) return tell('There is no marker yet. Select words and press M.')
  player.seek(next.first / fps(now))
  openLayer(next.layer)
}

/** Show another edition, at the same place of the recording. */
const showEdition = (edition: string) => void sheet.show(edition)

function toNote(id: string, seconds: number | null) {
  if (seconds !== null) player.seek(seconds)
  openLayer(id)
}

function rewrite(changing: Word[], text: string, recording: string) {
  void sheet.correct({ type: 'rewrite', changes: [{ words: changing.map((word) => word.id), text }], fresh: 0 }, recording)
}

const over = computed(() => !!doc.value && doc.value.seconds > doc.value.outlet.longest)
const captionsNow = computed(() => {
  const sheet = doc.value?.sheet
  return sheet?.captions ? `Captions: ${sheet.style?.name ?? choices.value?.captions[sheet.captions]?.name ?? ''}` : 'No captions'
})
const DRESSED: Record<string, string> = { plain: ', plain', captioned: ', captioned', dressed: '' }

async function act(work: Promise<unknown>) {
  await work.catch(tellError)
  await preparing.refetch()
}
</script>

<template>
  <Teleport defer to="#crumbs">
    <RouterLink v-if="home" :to="{ name: 'desk', params: { id: home.id } }" class="crumb">{{ home.title }}</RouterLink>
    <h1 v-if="doc" class="name"><button class="title" title="Rename" @click="rename">{{ doc.title }}</button></h1>
    <span v-if="doc" class="time length" :class="{ alarm: over }" data-test="length">
      {{ clock(doc.seconds) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <el-button v-if="narrow" :aria-expanded="picturing" @click="picturing = !picturing">Picture</el-button>
    <el-select v-if="doc" :model-value="doc.edition" aria-label="Edition shown" class="outlet" @change="showEdition">
      <el-option v-for="each in doc.editions" :key="each.id" :label="each.name + DRESSED[each.dressing]" :value="each.id" />
    </el-select>
    <CommandButton v-if="!narrow" id="editions">Editions</CommandButton>
    <CommandButton id="export" type="primary" />
  </Teleport>
  <p v-if="first.error.value" class="lost" role="alert">
    {{ first.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-else class="sheet">
    <div v-if="narrow && picturing" class="drawer-shade" @click="picturing = false"></div>
    <div class="left" :class="{ drawer: narrow, open: picturing }">
      <Stage
        ref="stage" :doc="doc" :choices="choices" :captions="drawer === 'captions'" :layer="movable" :seen="seen" :guarded="guarded" :choose-style="chooseStyle"
        @change="change" @pin="pin"
      />
      <BringInLine
        v-if="preparing.data.value && !preparing.data.value.playable" :jobs="jobsOf(preparing.data.value, 'bringing in')"
        name="Preview" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(preparing.data.value))"
      />
      <p v-if="!player.coloured.value" class="quiet" role="status">Colours as they were filmed (Y shows them as set)</p>
      <p v-if="doc?.preparing" class="quiet" role="status">Sound at another speed is being made…</p>
      <Transport
        :time="player.time.value" :length="player.length.value" :playing="player.playing.value" :ready="player.ready.value"
        @toggle="player.toggle" @seek="player.seek"
      />
      <div class="choices">
        <CommandButton id="captions" size="small">{{ captionsNow }}</CommandButton>
        <span class="grow" />
        <CommandMenu :groups="[['house', 'editions', 'copy-clip', 'copy-dressing'], ['delete-clip']]" text size="small">Clip…</CommandMenu>
      </div>
    </div>
    <div class="middle">
      <div class="bar" role="toolbar" aria-label="Editing">
        <CommandButton id="cut" />
        <CommandButton id="bring-back" />
        <CommandButton id="correct">Correct</CommandButton>
        <CommandMenu :groups="[['to-front', 'hold-words', 'copy-words', 'repeat']]" :disabled="!refs">Move</CommandMenu>
        <CommandMenu :groups="LAYING" :disabled="!doc">Lay</CommandMenu>
        <CommandMenu :groups="[['add', 'gap', 'opening-card', 'end-card'], ['trim', 'split']]" :disabled="!doc">Pieces</CommandMenu>
        <span class="sep" />
        <CommandButton id="undo" :off="!sheet.canUndo.value" why="Nothing to undo since you opened this; the history reaches further" />
        <CommandButton id="redo" :off="!doc?.can_redo" />
        <CommandButton id="history" text />
        <span class="sep" />
        <CommandButton id="sweep" />
        <span class="grow" />
        <span v-if="!drawer" class="quiet keys">Space plays · Delete cuts · Ctrl+K finds a command</span>
      </div>
      <p v-if="newer" class="held" role="status">
        “{{ newer.name }}” has changed since this clip was dressed in it.
        <el-button size="small" @click="dress(newer)">Dress again</el-button>
      </p>
      <p v-if="held" class="held" role="status">
        Click the word before which this should stand, or select it and press Ctrl+V.
        <el-button size="small" @click="held = null">Cancel</el-button>
      </p>
      <div v-if="barless.length" class="barless" aria-label="Over the whole clip, or asleep">
        <button v-for="each in barless" :key="each.layer" :class="{ asleep: !each.whole }" data-test="bar" @click="openLayer(each.layer)">
          {{ each.label }}<span class="quiet">{{ each.whole ? ' over all' : ' asleep' }}</span>
        </button>
      </div>
      <SheetRows
        v-if="doc && choices" ref="rows" :doc="doc" :time="player.time.value" :placing="held !== null" :playing="player.playing.value" :peaks="peaks" :choices="choices" :layer="drawer === 'layer' ? layer : null"
        @go="player.seek($event + 1e-4)" @place="put([$event])" @selected="chosen = $event" @rewrite="rewrite" @correct="sheet.correct" @drop="drop" @layer="openLayer" @reach="reach" @remove-piece="edit([{ type: 'remove_piece', piece: $event }])"
      />
      <p v-else class="lost quiet" role="status">Reading the clip…</p>
    </div>
    <ExportDrawer v-if="doc && drawer === 'export'" class="right" :doc="doc" :time="player.time.value" @close="openDrawer(null)" />
    <HistoryDrawer v-if="doc && drawer === 'history'" class="right" :doc="doc" @back="sheet.goBack" @close="openDrawer(null)" />
    <LayerDrawer
      v-if="doc && choices && drawer === 'layer'" :key="layer" class="right" :doc="doc" :layer="layer" :content="openedLayer?.content" :choices="choices" :has-words="!!refs" :time="player.time.value"
      @change="change" @nudge="nudge" @over="layOver" @edit="edit" @apart="setApart" @remove="removeLayer" @close="openDrawer(null)"
    />
    <TrimDrawer
      v-if="doc && drawer === 'trim'" class="right" :doc="doc" :piece="trimmed" @ask="ask" @hear="hearEdge"
      @remove="edit([{ type: 'remove_piece', piece: trimmed }]).then(() => openDrawer(null))" @close="openDrawer(null)"
    />
    <CaptionsDrawer
      v-if="doc && choices && drawer === 'captions'" class="right" :doc="doc" :choices="choices" :time="player.time.value" :choose-style="chooseStyle" @edit="edit" @keywords="findKeywords" @open="openLayer"
      @word="wording" @layout="edit([{ type: 'set_layout', layout: $event }])" @go="player.seek($event + 1e-4)" @close="openDrawer(null)"
    />
    <HookDrawer v-if="doc && drawer === 'hooks'" class="right" :doc="doc" @hear="playPart($event.start, $event.end)" @move="(line, repeat) => hookFirst(line, repeat).then(() => openDrawer(null))" @close="openDrawer(null)" />
    <SuggestDrawer v-if="doc && (drawer === 'suggest' || drawer === 'cuts')" :key="drawer" class="right" :doc="doc" :cuts="drawer === 'cuts'" @go="player.seek" @show="show" @closer="closer" @close="openDrawer(null)" />
    <ShelfDrawer v-if="doc && drawer === 'shelf'" class="right" :said="said" :shown="media" @pick="(media) => lay({ kind: 'broll', group: 'screen', label: '', keys: [], over: 'words', content: { kind: 'broll', media } })" @close="openDrawer(null)" />
    <MarkersDrawer v-if="doc && drawer === 'markers'" class="right" :doc="doc" @go="toNote" @close="openDrawer(null)" />
    <AddDrawer
      v-if="choices && drawer === 'add'" class="right wider" :doubtful="choices.doubtful" :place="before ? 'before the selected word' : 'at the end'"
      @add="(recording, from, to) => ask({ ask: 'add_words', recording, first: from.id, last: to.id, before })" @close="openDrawer(null)"
    />
    <Ruler v-if="doc && sources.length" class="bottom" :doc="doc" :time="player.time.value" @seek="player.seek" />
    <EditionsDialog v-if="doc && dialog === 'editions'" :doc="doc" @edit="edit" @close="dialog = null" />
    <ShapesDialog v-if="doc && dialog === 'shapes'" :doc="doc" :time="player.time.value" @keep="(shapes, house) => void keepShapes(sheet, shapes, house)" @close="dialog = null" />
    <HouseDialog v-if="doc && dialog === 'house'" :doc="doc" @dress="dress" @close="dialog = null" />
    <DressingDialog v-if="doc && dialog === 'dressing'" :doc="doc" @close="dialog = null" />
  </div>
</template>

<style scoped>
.sheet { position: relative; display: grid; grid-template: minmax(0, 1fr) auto / 290px minmax(0, 1fr) auto; height: 100%; overflow: hidden; }
.left { display: flex; flex-direction: column; gap: 12px; padding: 16px 20px; border-right: 1px solid var(--rule); overflow: hidden auto; }
.choices { display: flex; gap: 8px; align-items: center; font-size: 14px; }
.middle { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
.grow { flex: 1; }
.keys { font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.middle > .rows { flex: 1; min-height: 0; }
.right { width: 320px; border-left: 1px solid var(--rule); }
.right.wider { width: 380px; }
.bottom { grid-column: 1 / -1; grid-row: 2; }
.outlet { width: 140px; }
.crumb { flex: 0 3 auto; min-width: 40px; max-width: 220px; overflow: hidden; color: var(--ink-2); text-overflow: ellipsis; white-space: nowrap; }
.name { min-width: 60px; overflow: hidden; font-size: inherit; }
.title { max-width: min(320px, 100%); padding: 0; overflow: hidden; border: 0; background: none; font-weight: 600; text-overflow: ellipsis; white-space: nowrap; cursor: text; }
.length { flex: none; white-space: nowrap; }
.held { display: flex; gap: 10px; align-items: center; margin: 0; padding: 6px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.barless { display: flex; flex-wrap: wrap; gap: 6px; padding: 6px 20px; border-bottom: 1px solid var(--rule); }
.barless button { padding: 2px 8px; border: 0; border-left: 3px solid var(--pencil); background: #e4ebf8; font-size: 13px; cursor: pointer; }
.barless .asleep { border-left-color: var(--ink-2); background: var(--paper-2); }
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
