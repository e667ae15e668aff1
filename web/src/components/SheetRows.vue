<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { clock } from '@/composables/format'
import { heardAt, statesOf, tokensOfRow, type Token } from '@/composables/tokens'
import type { Word } from '@/composables/transcript'
import type { Choices } from '@/composables/useChoices'
import type { Correction, Doc } from '@/composables/useDocument'
import { useSelection } from '@/composables/useSelection'
import { useWordEditing } from '@/composables/useWordEditing'
import RowWave from './RowWave.vue'
import TokenText from './TokenText.vue'

const props = defineProps<{ doc: Doc; time: number; placing: boolean; playing: boolean; peaks: Uint8Array | null; choices: Choices }>()
const emit = defineEmits<{ go: [seconds: number]; place: [token: Token]; selected: [tokens: Token[]]; rewrite: [words: Word[], text: string]; correct: [correction: Correction] }>()

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

const selection = useSelection(page, tokens, (token) => (props.placing ? emit('place', token) : go(token)))
watch(selection.selected, (selected) => emit('selected', selected))
watch(() => props.doc, () => void nextTick(selection.repaint))

const focus = () => page.value?.focus()
const { editing, edit, keep, join, drop } = useWordEditing({ tokens, selection, focus, rewrite: (words, text) => emit('rewrite', words, text), correct: (correction) => emit('correct', correction) })

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

defineExpose({ move: selection.move, moveLine, clear: selection.clear, edit, focus })
</script>

<template>
  <div ref="page" class="rows" :class="{ placing }" tabindex="0" role="region" aria-label="Sheet" v-on="selection.pointer">
    <div v-for="(line, n) in lines" :key="`${line.row.piece}-${line.row.start}`" class="row" :class="{ now: n === now, gone: line.row.at === null, opens: n > 0 && line.row.piece !== lines[n - 1]!.row.piece }">
      <span class="time quiet">{{ line.row.at === null ? 'cut' : clock(line.row.at) }}</span>
      <RowWave :peaks="peaks" :rate="choices.peaks_per_second" :start="line.row.start" :end="line.row.end" />
      <p>
        <TokenText
          :tokens="line.tokens" :first="line.first" :state="line.states" :doubtful="choices.doubtful" :editing="editing"
          @keep="keep" @drop="drop" @join="join"
        />
      </p>
    </div>
  </div>
</template>

<style scoped>
.rows { height: 100%; padding: 8px 20px 60px; overflow-y: auto; user-select: none; outline: none; border-left: 2px solid transparent; }
.row { display: grid; grid-template-columns: 56px 28px minmax(0, 1fr); gap: 14px; align-items: center; padding: 4px 6px; border-bottom: 1px solid var(--rule); }
/* A piece that begins: what comes before it in the recording stands elsewhere. */
.row.opens { border-top: 2px solid var(--pencil); }
.rows.placing { cursor: copy; }
.row.now { background: var(--paper-2); }
.time { text-align: right; }
p { margin: 0; font: 17px/1.5 var(--serif); }
.rows:focus-visible { border-left-color: var(--pencil); }
@media (width < 900px) {
  .rows { padding: 4px 8px 40px; }
  .row { grid-template-columns: 48px minmax(0, 1fr); gap: 8px; }
  .row canvas { display: none; }
}
</style>
