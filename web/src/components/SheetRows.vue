<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { clock } from '@/composables/format'
import { statesOf, tokenAt, tokensOf, type Token } from '@/composables/tokens'
import type { Word } from '@/composables/transcript'
import type { Choices } from '@/composables/useChoices'
import type { Correction, Doc } from '@/composables/useDocument'
import { useSelection } from '@/composables/useSelection'
import { useWordEditing } from '@/composables/useWordEditing'
import RowWave from './RowWave.vue'
import TokenText from './TokenText.vue'

const props = defineProps<{ doc: Doc; source: number; playing: boolean; peaks: Uint8Array | null; choices: Choices }>()
const emit = defineEmits<{ go: [seconds: number]; selected: [tokens: Token[]]; rewrite: [words: Word[], text: string]; correct: [correction: Correction] }>()

const page = ref<HTMLElement | null>(null)
const tokens = computed(() => tokensOf(props.doc.rows.flatMap((row) => row.words), props.doc.pauses))
const stateOf = computed(() => statesOf(props.doc))

/** Each row of the sheet with its tokens; a pause stands with the words before it. */
const lines = computed(() => {
  let n = 0
  return props.doc.rows.map((row, k) => {
    const next = props.doc.rows[k + 1]
    const first = n
    while (n < tokens.value.length && (!next || tokens.value[n]!.start < next.start)) n++
    const own = tokens.value.slice(first, n)
    return { row, first, tokens: own, states: own.map(stateOf.value) }
  })
})

const selection = useSelection(page, tokens, (token) => emit('go', token.start))
watch(selection.selected, (selected) => emit('selected', selected))
watch(() => props.doc, () => void nextTick(selection.repaint))

const focus = () => page.value?.focus()
const { editing, edit, keep, join, drop } = useWordEditing({ tokens, selection, focus, rewrite: (words, text) => emit('rewrite', words, text), correct: (correction) => emit('correct', correction) })

const spoken = computed(() => tokenAt(tokens.value, props.source))
const now = computed(() => lines.value.findLastIndex((line) => line.first <= spoken.value))
watch(spoken, (n) => {
  const token = tokens.value[n]
  const heard = token?.kind === 'word' && props.source < token.end + props.choices.spoken_for
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
  <div ref="page" class="rows" tabindex="0" role="region" aria-label="Sheet" v-on="selection.pointer">
    <div v-for="(line, n) in lines" :key="line.row.words[0]!.id" class="row" :class="{ now: n === now, gone: line.row.at === null }">
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
