<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, toRef, watch } from 'vue'
import { clock } from '@/shared/format'
import { placeOf, statesOf, tokenAt, tokensOf, type Token } from '@/document/tokens'
import type { Transcript, Word } from '@/document/transcript'
import type { Correction, Doc } from '@/document/useDocument'
import { useSelection } from '@/document/useSelection'
import { useWordEditing } from '@/document/useWordEditing'
import TokenText from '@/document/TokenText.vue'

/** The transcript as a page to read, select and correct. Only the paragraphs in sight are in the document. */
const props = defineProps<{
  transcript: Transcript
  doc: Doc | null
  source: number // seconds of the recording that are heard now
  playing: boolean
  found: [number, number][] // what was searched for: places of words
  doubtful: number // the confidence under which a word is marked
  passages: { id: string; start: number; end: number; title: string; current: boolean }[] // what is worth sharing
  spokenFor: number // seconds after its end for which a word is still the one that is heard
}>()
const emit = defineEmits<{
  go: [seconds: number]
  selected: [tokens: Token[]]
  rewrite: [words: Word[], text: string]
  correct: [correction: Correction]
}>()

const page = ref<HTMLElement | null>(null)
const tokens = computed(() => tokensOf(props.transcript.words, props.transcript.pauses))

interface Block {
  speaker: string
  suggested: boolean
  colour: string
  named: boolean
  start: number
  first: number
  tokens: Token[]
}

/** Paragraphs as runs of tokens; a pause stands with the words before it. */
const blocks = computed<Block[]>(() => {
  const { words, paragraphs, speakers } = props.transcript
  const cast = new Map(speakers.map((speaker) => [speaker.key, speaker]))
  const made: Block[] = []
  let n = 0
  for (const [k, paragraph] of paragraphs.entries()) {
    const next = paragraphs[k + 1]
    const until = next ? words[next.first]!.start : Infinity
    const first = n
    while (n < tokens.value.length && tokens.value[n]!.start < until) n++
    const speaker = cast.get(paragraph.speaker)
    made.push({
      speaker: speaker?.name ?? '',
      suggested: words[paragraph.first]!.speaker_by === 'voices',
      colour: speaker?.colour ?? '',
      named: k === 0 || paragraphs[k - 1]!.speaker !== paragraph.speaker,
      start: words[paragraph.first]!.start,
      first,
      tokens: tokens.value.slice(first, n),
    })
  }
  return made
})

const LINE = 30
const rows = useVirtualizer(
  computed(() => ({
    count: blocks.value.length,
    getScrollElement: () => page.value,
    estimateSize: (n: number) => {
      const letters = blocks.value[n]!.tokens.reduce((sum, token) => sum + (token.kind === 'word' ? token.word.text.length + 1 : 7), 0)
      return Math.ceil(letters / 58) * LINE + 18
    },
    overscan: 4,
    paddingStart: 20,
    paddingEnd: 120,
    getItemKey: (n: number) => blocks.value[n]!.first,
  })),
)
const shown = computed(() => rows.value.getVirtualItems())

function blockOf(n: number): number {
  let low = 0
  let high = blocks.value.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (blocks.value[middle]!.first <= n) low = middle + 1
    else high = middle
  }
  return low - 1
}

function mounted(): [number, number] {
  const first = blocks.value[shown.value[0]?.index ?? 0]
  const last = blocks.value[shown.value.at(-1)?.index ?? -1]
  return first && last ? [first.first, last.first + last.tokens.length - 1] : [0, -1]
}

/** Bring a token onto the page; `centre` also when it is in sight already but near an edge. */
function reveal(n: number, centre = false) {
  const element = selection.element(n)
  if (element) {
    element.scrollIntoView({ block: centre ? 'center' : 'nearest' })
    return
  }
  rows.value.scrollToIndex(Math.max(blockOf(n), 0), { align: 'center' })
  void nextTick(() => requestAnimationFrame(() => selection.element(n)?.scrollIntoView({ block: centre ? 'center' : 'nearest' })))
}

const stateOf = computed(() => statesOf(props.doc))

const selection = useSelection(page, tokens, (token) => emit('go', token.start), { mounted, reveal })
watch(selection.selected, (selected) => emit('selected', selected))

/** Brackets in the margin beside what is worth sharing, by paragraph: where they are in it, in pixels. */
const brackets = shallowRef(new Map<number, { id: string; top: number; height: number; title: string; current: boolean; opens: boolean; closes: boolean }[]>())
function bracket() {
  const made: typeof brackets.value = new Map()
  for (const { index } of shown.value) {
    const block = blocks.value[index]
    if (!block) continue
    const last = block.first + block.tokens.length - 1
    for (const passage of props.passages) {
      const [a, b] = [tokenAt(tokens.value, passage.start + 1e-3), tokenAt(tokens.value, passage.end - 1e-3)]
      if (b < block.first || a > last) continue
      const [from, to] = [selection.element(Math.max(a, block.first)), selection.element(Math.min(b, last))]
      if (!from || !to) continue
      const top = from.offsetTop
      made.set(index, [...(made.get(index) ?? []), { ...passage, top, height: to.offsetTop + to.offsetHeight - top, opens: a >= block.first, closes: b <= last }])
    }
  }
  brackets.value = made
}
watch(() => props.passages, () => void nextTick(bracket))

function repaint() {
  selection.repaint()
  paintFound()
  bracket()
}
watch([toRef(props, 'doc'), shown, blocks], () => void nextTick(repaint))

const wordTokens = computed(() => {
  const places: number[] = []
  tokens.value.forEach((token, n) => token.kind === 'word' && places.push(n))
  return places
})

function paintFound() {
  const [first, last] = mounted()
  const places = props.found
    .map(([a, b]): [number, number] => [wordTokens.value[a] ?? -1, wordTokens.value[b] ?? -1])
    .filter(([a, b]) => b >= first && a <= last)
  selection.paint('found', ...places)
}
watch(() => props.found, paintFound)

const following = ref(true)
const spoken = computed(() => tokenAt(tokens.value, props.source))
watch([spoken, () => props.playing], () => {
  const token = tokens.value[spoken.value]
  const heard = token?.kind === 'word' && props.source < token.end + props.spokenFor
  selection.paint('spoken', [heard ? spoken.value : -1, spoken.value])
  if (props.playing && following.value && token) keepInView(spoken.value)
})
watch(() => props.playing, (playing) => {
  if (playing) following.value = true
})

function keepInView(n: number) {
  const box = selection.element(n)?.getBoundingClientRect()
  const frame = page.value?.getBoundingClientRect()
  if (!frame) return
  if (!box || box.top < frame.top + 40 || box.bottom > frame.bottom - 80) reveal(n, true)
}

function scrolledAway() {
  if (props.playing) following.value = false
}

function comeBack() {
  following.value = true
  reveal(spoken.value, true)
}

// Correcting in place. The words are held by id: their places shift when words are split or joined.
const focus = () => page.value?.focus()
const { editing, edit, keep, join, drop } = useWordEditing({ tokens, selection, focus, reveal, rewrite: (words, text) => emit('rewrite', words, text), correct: (correction) => emit('correct', correction) })

function selectWords(words: Word[]) {
  const first = words.length ? placeOf(tokens.value, words[0]!) : -1
  if (first < 0) return
  selection.select(first, placeOf(tokens.value, words.at(-1)!))
  reveal(first, true)
}

function selectBlock(block: Block) {
  selection.select(block.first, block.first + block.tokens.length - 1)
  page.value?.focus()
}

/** The words a speaker's digit is meant for: those selected, or the whole paragraph of a single one. */
function spokenBySelected(): Word[] {
  const chosen = selection.selected.value.flatMap((token) => (token.kind === 'word' ? [token.word] : []))
  if (chosen.length !== 1) return chosen
  const block = blocks.value[blockOf(selection.first.value)]
  return block ? block.tokens.flatMap((token) => (token.kind === 'word' ? [token.word] : [])) : chosen
}

useEventListener(document, 'copy', (event: ClipboardEvent) => {
  if ((event.target as HTMLElement).closest?.('input, textarea') || !selection.selected.value.length) return
  const lines: string[] = []
  for (let b = blockOf(selection.first.value); b <= blockOf(selection.last.value); b++) {
    const block = blocks.value[b]!
    const from = Math.max(selection.first.value - block.first, 0)
    const text = block.tokens
      .slice(from, selection.last.value - block.first + 1)
      .flatMap((token) => (token.kind === 'word' && token.word.kind !== 'sound' ? [token.word.text] : []))
    if (text.length) lines.push(text.join(' '))
  }
  event.clipboardData?.setData('text/plain', lines.join('\n\n'))
  event.preventDefault()
})

function moveLine(down: boolean, extend: boolean): boolean {
  selection.move(selection.lineStep(down), extend)
  return true
}

/** Bring a time of the recording onto the page, and select what stands there. */
function goTo(seconds: number) {
  const n = Math.max(tokenAt(tokens.value, seconds), 0)
  selection.select(n)
  reveal(n, true)
  following.value = true
}

/** Bring a time of the recording onto the page; the selection stays. */
const revealTime = (seconds: number) => reveal(Math.max(tokenAt(tokens.value, seconds), 0), true)

defineExpose({ reveal: revealTime, move: selection.move, moveLine, all: selection.all, clear: selection.clear, edit, selectWords, spokenBySelected, goTo, focus })
</script>

<template>
  <div class="frame">
    <div ref="page" class="page" tabindex="0" aria-label="Transcript" v-on="selection.pointer" @wheel.passive="scrolledAway">
      <div :style="{ height: `${rows.getTotalSize()}px`, position: 'relative' }">
        <section
          v-for="item in shown" :key="String(item.key)" :ref="(element) => rows.measureElement(element as Element | null)" :data-index="item.index"
          class="paragraph" :style="{ top: `${Math.round(item.start)}px` }"
        >
          <button class="side" tabindex="-1" title="Select this paragraph" @click="selectBlock(blocks[item.index]!)">
            <span
              v-if="blocks[item.index]!.named" class="speaker" :class="{ suggested: blocks[item.index]!.suggested }"
              :style="{ color: blocks[item.index]!.colour }" :title="blocks[item.index]!.suggested ? 'Suggested from the voice' : undefined"
            >{{ blocks[item.index]!.speaker }}{{ blocks[item.index]!.suggested ? '?' : '' }}</span>
            <span class="time quiet">{{ clock(blocks[item.index]!.start, false) }}</span>
          </button>
          <i v-for="each in brackets.get(item.index)" :key="each.id" class="bracket" :class="{ current: each.current, opens: each.opens, closes: each.closes }" :style="{ top: `${each.top}px`, height: `${each.height}px` }" :title="`Worth sharing: ${each.title}`"></i>
          <p>
            <TokenText
              :tokens="blocks[item.index]!.tokens" :first="blocks[item.index]!.first" :state="blocks[item.index]!.tokens.map(stateOf)" :doubtful="doubtful"
              :editing="editing" @keep="keep" @drop="drop" @join="join"
            />
          </p>
        </section>
      </div>
    </div>
    <el-button v-if="playing && !following" class="back" round @click="comeBack">Back to what is heard</el-button>
  </div>
</template>

<style scoped>
.frame { position: relative; min-height: 0; height: 100%; }
.page { height: 100%; overflow-y: auto; padding: 0 28px; user-select: none; touch-action: pan-y; outline: none; border-left: 2px solid transparent; }
.paragraph { position: absolute; left: 0; right: 0; display: grid; grid-template-columns: 96px minmax(0, 62ch); gap: 16px; }
.bracket { position: absolute; left: 102px; width: 6px; border-left: 2px solid var(--moss); }
.bracket.current { border-color: var(--pencil); border-left-width: 3px; }
.bracket.opens { border-top: 2px solid var(--moss); }
.bracket.closes { border-bottom: 2px solid var(--moss); }
.bracket.current.opens { border-top-color: var(--pencil); }
.bracket.current.closes { border-bottom-color: var(--pencil); }
.side { display: flex; flex-direction: column; align-items: flex-end; align-self: start; padding: 4px 0 0; border: 0; background: none; text-align: right; cursor: pointer; }
.side:hover .time { color: var(--pencil); }
.speaker { font-size: 13px; font-weight: 600; line-height: 1.3; overflow-wrap: anywhere; }
.speaker.suggested { font-style: italic; font-weight: 500; }
p { margin: 0; padding-bottom: 18px; font: 18px/1.65 var(--serif); }
.back { position: absolute; left: 50%; bottom: 20px; transform: translateX(-50%); }
.page:focus-visible { border-left-color: var(--pencil); }
</style>
