<script setup lang="ts">
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
import RowLanes from './RowLanes.vue'
import RowWave from './RowWave.vue'
import TokenText from '@/document/TokenText.vue'

const props = defineProps<{ doc: Doc; time: number; placing: boolean; playing: boolean; peaks: Map<string, Uint8Array>; choices: Choices; layer: string | null }>()
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

/** The lanes that hold something, each with its bars and the columns they stand in. */
const lanes = computed(() =>
  Object.entries(props.choices.lanes).map(([lane, title]) => {
    const bars = props.doc.bars.filter((bar) => bar.lane === lane && !bar.whole && bar.first !== null)
    return { lane, title, bars, columns: columnsOf(bars) }
  }).filter((each) => each.bars.length),
)
/** What stands beside each row: worked out once for a sheet, not whenever something is selected or heard. */
const beside = computed(() => lines.value.map((line) => lanes.value.map(({ lane, bars, columns }) => ({ lane, segments: segmentsOf(line, bars, columns) }))))
const { grab } = useLaneDrag(
  page, lines, (range) => selection.paint('drop', range ?? [-1, -1]),
  (layer, first, last) => emit('reach', layer, tokens.value.slice(first, last + 1)),
)
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

defineExpose({ move: selection.move, moveLine, all: selection.all, clear: selection.clear, edit, focus })
</script>

<template>
  <div class="around">
  <div v-if="lanes.length" class="heads" aria-hidden="true"><span v-for="each in lanes" :key="each.lane">{{ each.title }}</span></div>
  <div ref="page" class="rows" :class="{ placing }" tabindex="0" role="region" aria-label="Sheet" v-on="selection.pointer">
    <div v-for="(line, n) in lines" :key="`${line.row.piece}-${line.row.start}`" class="row" :class="{ now: n === now, gone: line.row.at === null, opens: n > 0 && line.row.piece !== lines[n - 1]!.row.piece }">
      <span class="time quiet"><i class="grip" :data-from="line.first" :data-to="line.first + line.tokens.length - 1" title="Drag to another place" aria-hidden="true"></i>{{ line.row.at === null ? label(line.row) : clock(line.row.at) }}</span>
      <RowWave :peaks="peaks.get(line.row.recording ?? '') ?? null" :rate="choices.peaks_per_second" :start="line.row.start" :end="line.row.end" />
      <p v-if="line.row.missing" class="missing">Its recording was deleted. <el-button size="small" :disabled="doc.rows.length < 2" @click="$emit('removePiece', line.row.piece)">Delete this piece</el-button></p>
      <p v-else>
        <TokenText
          :tokens="line.tokens" :first="line.first" :state="line.states" :doubtful="choices.doubtful" :editing="editing"
          @keep="keep" @drop="drop" @join="join"
        />
      </p>
      <RowLanes v-if="lanes.length" :lanes="beside[n]!" :chosen="layer" @choose="$emit('layer', $event)" @grab="(segment, edge, event) => grab(segment.bar, edge, event)" />
    </div>
  </div>
  </div>
</template>

<style scoped>
.around { display: flex; flex-direction: column; min-height: 0; container-type: inline-size; }
.heads, .rows { --lane: clamp(52px, 9cqi, 104px); }
.heads { display: flex; gap: 6px; justify-content: flex-end; padding: 4px 26px 2px; color: var(--ink-2); font-size: 12px; }
.heads span { width: var(--lane); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.missing { color: var(--alarm); font: 14px var(--sans); }
.grip { display: inline-block; width: 8px; height: 14px; margin-right: 4px; vertical-align: -2px; cursor: grab; background: radial-gradient(circle, var(--ink-2) 1px, transparent 1.5px) 0 0 / 4px 5px; opacity: 0; }
.row:hover .grip { opacity: 1; }
.rows { flex: 1; min-height: 0; padding: 8px 20px 60px; overflow-y: auto; user-select: none; outline: none; border-left: 2px solid transparent; }
.row { display: grid; grid-template-columns: 64px 28px minmax(0, 1fr) auto; gap: 14px; align-items: center; padding: 4px 6px; border-bottom: 1px solid var(--rule); }
/* A piece that begins: what comes before it in the recording stands elsewhere. */
.row.opens { border-top: 2px solid var(--pencil); }
.rows.placing { cursor: copy; }
.row.now { background: var(--paper-2); }
.time { text-align: right; }
.time::highlight(selected) { background-color: transparent; }
p { margin: 0; font: 17px/1.5 var(--serif); }
.rows:focus-visible { border-left-color: var(--pencil); }
@media (width < 900px) {
  .heads { display: none; }
  .rows { padding: 4px 8px 40px; }
  .row { grid-template-columns: 48px minmax(0, 1fr); gap: 8px; }
  .row canvas { display: none; }
}
</style>
