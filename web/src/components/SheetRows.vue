<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { clock } from '@/composables/format'
import { pauseLeft, struckWords, tokenAt, tokensOf, type Token } from '@/composables/tokens'
import type { Doc } from '@/composables/useDocument'
import { useSelection } from '@/composables/useSelection'
import RowWave from './RowWave.vue'
import TokenText from './TokenText.vue'

const props = defineProps<{ doc: Doc; source: number; playing: boolean; peaks: Uint8Array | null }>()
const emit = defineEmits<{ go: [seconds: number]; selected: [tokens: Token[]] }>()

const page = ref<HTMLElement | null>(null)
const tokens = computed(() => tokensOf(props.doc.rows.flatMap((row) => row.words), props.doc.pauses))
const struck = computed(() => struckWords(props.doc))

function stateOf(token: Token): string {
  if (token.kind === 'word') return struck.value.has(token.word.id) ? 'cut' : ''
  const left = pauseLeft(props.doc.plan, token.pause)
  return left === null ? '' : left < 0.08 ? 'cut' : left.toFixed(1)
}

/** Each row of the sheet with its tokens; a pause stands with the words before it. */
const lines = computed(() => {
  let n = 0
  return props.doc.rows.map((row, k) => {
    const next = props.doc.rows[k + 1]
    const first = n
    while (n < tokens.value.length && (!next || tokens.value[n]!.start < next.start)) n++
    const own = tokens.value.slice(first, n)
    return { row, first, tokens: own, states: own.map(stateOf) }
  })
})

const selection = useSelection(page, tokens, (token) => emit('go', token.start))
watch(selection.selected, (selected) => emit('selected', selected))
watch(() => props.doc, () => void nextTick(selection.repaint))

const spoken = computed(() => tokenAt(tokens.value, props.source))
const now = computed(() => lines.value.findLastIndex((line) => line.first <= spoken.value))
watch(spoken, (n) => {
  const token = tokens.value[n]
  const heard = token?.kind === 'word' && props.source < token.end + 0.15
  selection.paint('spoken', [heard ? n : -1, n])
})
watch(now, (line) => {
  if (props.playing) page.value?.children[line]?.scrollIntoView({ block: 'nearest' })
})

defineExpose({ move: selection.move, clear: selection.clear })
</script>

<template>
  <div ref="page" class="rows" tabindex="0" aria-label="Sheet" v-on="selection.pointer">
    <div v-for="(line, n) in lines" :key="line.row.words[0]!.id" class="row" :class="{ now: n === now, gone: line.row.at === null }">
      <span class="time quiet">{{ line.row.at === null ? 'cut' : clock(line.row.at) }}</span>
      <RowWave :peaks="peaks" :start="line.row.start" :end="line.row.end" />
      <p><TokenText :tokens="line.tokens" :first="line.first" :state="line.states" /></p>
    </div>
  </div>
</template>

<style scoped>
.rows { height: 100%; padding: 8px 20px 60px; overflow-y: auto; user-select: none; outline: none; border-left: 2px solid transparent; }
.row { display: grid; grid-template-columns: 56px 28px minmax(0, 1fr); gap: 14px; align-items: center; padding: 4px 6px; border-bottom: 1px solid var(--rule); }
.row.now { background: var(--paper-2); }
.row.gone { opacity: 0.75; }
.time { text-align: right; }
p { margin: 0; font: 17px/1.5 var(--serif); }
.rows:focus-visible { border-left-color: var(--pencil); }
</style>
