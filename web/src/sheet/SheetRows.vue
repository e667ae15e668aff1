<script setup lang="ts">
import { useElementSize, useScroll } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { clock } from '@/shared/format'
import { heardAt, statesOf, tokensOfRow, type Token } from '@/document/tokens'
import type { Word } from '@/document/transcript'
import type { Choices } from '@/shared/useChoices'
import type { Correction, Doc } from '@/document/useDocument'
import { useSelection } from '@/document/useSelection'
import { useWordEditing } from '@/document/useWordEditing'
import { columnsOf, segmentsOf } from './bars'
import { useLaneDrag } from './useLaneDrag'
import RowLaid from './RowLaid.vue'
import RowLanes from './RowLanes.vue'
import RowWave from './RowWave.vue'
import TokenText from '@/document/TokenText.vue'

const props = defineProps<{ doc: Doc; time: number; placing: boolean; playing: boolean; peaks: Map<string, Uint8Array>; choices: Choices; layer: string | null; beats: boolean; commented: Set<string>; covered: number /* pixels of its right side that something lies over */ }>()
const emit = defineEmits<{ go: [seconds: number]; place: [token: Token]; selected: [tokens: Token[]]; rewrite: [words: Word[], text: string, recording: string]; correct: [correction: Correction, recording: string]; drop: [token: Token]; layer: [id: string]; reach: [layer: string, tokens: Token[]]; removePiece: [piece: string] }>()

const page = ref<HTMLElement | null>(null)
const tokens = computed(() => lines.value.flatMap((line) => line.tokens))
const stateOf = statesOf(null)

/** Each row of the sheet with its tokens. */
const lines = computed(() => {
  let first = 0
  return props.doc.rows.map((row) => {
    const own = tokensOfRow(row)
    const line = { row, first, tokens: own, states: own.map(stateOf) }
    first += own.length
    return line
  })
})

/** Go to where a token is heard; to what follows it when it is cut. */
function go(token: Token) {
  const from = tokens.value.indexOf(token)
  const heard = tokens.value.slice(from).find((each) => each.placed?.at != null)
  if (heard?.placed?.at != null) emit('go', heard.placed.at)
}

const selection = useSelection(page, tokens, (token) => (props.placing ? emit('place', token) : go(token)), { drop: (n) => emit('drop', tokens.value[n]!) })
watch(selection.selected, (selected) => emit('selected', selected))
watch(() => props.doc, () => void nextTick(selection.repaint))

/** The recording whose words are being corrected. */
const recordingOf = () => selection.selected.value[0]?.placed?.recording ?? ''

/** The lanes, each with its bars and the columns they stand in. */
const lanes = computed(() =>
  Object.entries(props.choices.lanes).map(([lane, title]) => {
    const bars = props.doc.bars.filter((bar) => bar.lane === lane && !bar.whole && bar.first !== null)
    return { lane, title, bars, columns: columnsOf(bars) }
  }),
)
/** What stands beside each row: worked out once for a sheet, not whenever something is selected or heard. */
const beside = computed(() => lines.value.map((line) => lanes.value.map(({ lane, bars, columns }) => ({ lane, segments: segmentsOf(line, bars, columns) }))))
const { grab } = useLaneDrag(
  page, lines, (range) => selection.paint('drop', range ?? [-1, -1]),
  (layer, first, last) => emit('reach', layer, tokens.value.slice(first, last + 1)),
)
const marked = computed(() => new Set((props.doc.sheet.keywords ?? []).map((ref) => `${ref.origin} ${ref.word}`)))
const label = (row: (typeof lines.value)[number]['row']) => (row.recording ? 'cut' : 'gap')

const focus = () => page.value?.focus()
const { editing, edit, keep, join, drop } = useWordEditing({ tokens, selection, focus, rewrite: (words, text) => emit('rewrite', words, text, recordingOf()), correct: (correction) => emit('correct', correction, recordingOf()) })

const spoken = computed(() => heardAt(tokens.value, props.time))
const now = computed(() => lines.value.findLastIndex((line) => line.first <= spoken.value))
watch(spoken, (n) => {
  const token = tokens.value[n]
  const said = token?.placed?.at != null ? token.placed.at + token.end - token.start : 0
  const heard = token?.kind === 'word' && props.time < said + props.choices.spoken_for
  selection.paint('spoken', [heard ? n : -1, n])
})
watch(now, (line) => {
  if (props.playing) page.value?.children[line]?.scrollIntoView({ block: 'nearest' })
})
onMounted(focus)

function moveLine(down: boolean, extend: boolean): boolean {
  selection.move(selection.lineStep(down), extend)
  return true
}

/** Where what is done with the selected words stands: on the line above their row, so low that it covers no word; null while it would be in the way. */
const around = ref<HTMLElement | null>(null)
const bar = ref<HTMLElement | null>(null)
const at = ref<{ top: string; left: string } | null>(null)
const scrolled = useScroll(page)
const room = useElementSize(around)
const BAR = 26 // pixels of its height
async function place() {
  const wanted = selection.selected.value.length > 0 && !selection.making.value && !props.placing && !props.playing && !editing.value
  if (!wanted) return void (at.value = null)
  await nextTick()
  const first = selection.element(selection.first.value)
  const [frame, rows, row, word] = [around.value, page.value, first?.closest('.row'), first].map((each) => each?.getBoundingClientRect())
  if (!frame || !rows || !row || !word || row.bottom < rows.top || row.top > rows.bottom) return void (at.value = null)
  const left = Math.max(Math.min(word.left, frame.right - props.covered - (bar.value?.offsetWidth ?? 0) - 8) - frame.left, 4)
  const y = Math.max(row.top, rows.top) - BAR / 2
  at.value = { top: `${Math.round(y - frame.top)}px`, left: `${Math.round(left)}px` }
}
watch([selection.first, selection.last, selection.making, editing, () => [props.placing, props.playing, props.doc, props.covered], scrolled.y, room.width, room.height, bar], () => void place(), { flush: 'post' })

defineExpose({ move: selection.move, moveLine, all: selection.all, clear: selection.clear, edit, focus })
</script>

<template>
  <div ref="around" class="around">
    <div class="heads" aria-hidden="true"><span></span><span></span><span></span><span class="lanes"><span v-for="each in lanes" :key="each.lane">{{ each.title }}</span></span></div>
    <div ref="page" class="rows" :class="{ placing }" tabindex="0" role="region" aria-label="Sheet" v-on="selection.pointer">
      <div v-for="(line, n) in lines" :key="`${line.row.piece}-${line.row.start}`" class="row" :class="{ now: n === now, gone: line.row.at === null, opens: n > 0 && line.row.piece !== lines[n - 1]!.row.piece }">
        <span class="time quiet" :data-from="line.first" :data-to="line.first + line.tokens.length - 1" title="Click to select the phrase, drag it to another place"><i class="grip" aria-hidden="true"></i>{{ line.row.at === null ? label(line.row) : clock(line.row.at) }}</span>
        <RowWave :peaks="peaks.get(line.row.recording ?? '') ?? null" :rate="choices.peaks_per_second" :start="line.row.start" :end="line.row.end" />
        <p v-if="line.row.missing" class="missing">Its recording was deleted. <el-button size="small" :disabled="doc.rows.length < 2" @click="$emit('removePiece', line.row.piece)">Delete this piece</el-button></p>
        <p v-else>
          <TokenText
            :tokens="line.tokens" :first="line.first" :state="line.states" :doubtful="choices.doubtful" :marked="marked" :commented="commented" :editing="editing"
            @keep="keep" @drop="drop" @join="join"
          />
        </p>
        <RowLanes :lanes="beside[n]!" :line="line" :beats="beats" :chosen="layer" :doc="doc" :peaks="peaks" @choose="$emit('layer', $event)" @grab="(segment, edge, event) => grab(segment.bar, edge, event)" />
        <RowLaid :lanes="beside[n]!" @choose="$emit('layer', $event)" />
      </div>
    </div>
    <div v-if="at" ref="bar" class="at" :style="at"><slot /></div>
  </div>
</template>

<style scoped>
.around { position: relative; display: flex; flex-direction: column; min-height: 0; container-type: inline-size; }
/* The drawer lies over the lanes and leaves the words as they are: so much of the width is theirs. */
.heads, .row { display: grid; grid-template-columns: 64px 28px minmax(150px, 28rem) minmax(300px, 1fr); gap: 14px; align-items: center; }
.heads { padding: 4px 26px 2px; color: var(--ink-2); font-size: 12px; }
.heads .lanes { display: flex; gap: 6px; max-width: 56rem; }
.heads .lanes span { flex: 1; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.missing { color: var(--alarm); font: 14px var(--sans); }
.grip { display: inline-block; width: 8px; height: 14px; margin-right: 4px; vertical-align: -2px; cursor: grab; background: radial-gradient(circle, var(--ink-2) 1px, transparent 1.5px) 0 0 / 4px 5px; opacity: 0; }
.row:hover .grip { opacity: 1; }
.rows { flex: 1; min-height: 0; padding: 4px 20px 60px; overflow-y: auto; user-select: none; outline: none; border-left: 2px solid transparent; }
.row { padding: 4px 6px; border-bottom: 1px solid var(--rule); }
/* A piece that begins: what comes before it in the recording stands elsewhere. */
.row.opens { border-top: 2px solid var(--pencil); }
.rows.placing { cursor: copy; }
.row.now { background: var(--paper-2); }
.time { text-align: right; cursor: grab; }
.time::highlight(selected) { background-color: transparent; }
p { margin: 0; font: 17px/1.5 var(--serif); }
.rows:focus-visible { border-left-color: var(--pencil); }
.at { position: absolute; z-index: 8; max-width: calc(100% - 8px); overflow: auto hidden; }
.laid { display: none; }
/* Where there is no room for lanes, a row says how much is laid over it. */
@container (width < 640px) {
  .heads { display: none; }
  .rows { padding: 4px 8px 56px; }
  .row { grid-template-columns: 48px minmax(0, 1fr) auto; gap: 8px; }
  .grip { display: none; }
  .row :deep(canvas), .row > :deep(.lanes) { display: none; }
  .laid { display: block; }
  .at { top: auto !important; right: 4px; bottom: 4px; left: 4px !important; }
}
</style>
