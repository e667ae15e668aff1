<script setup lang="ts">
import { computed, nextTick, ref, toRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { clock, speakerName } from '@/composables/format'
import { pauseLeft, struckWords, tokenAt, tokensOf, type Token } from '@/composables/tokens'
import type { Doc } from '@/composables/useDocument'
import { useSelection } from '@/composables/useSelection'
import TokenText from './TokenText.vue'

const props = defineProps<{
  transcript: Schemas['TranscriptOut']
  doc: Doc | null
  source: number // seconds of the recording that are heard now
  playing: boolean
}>()
const emit = defineEmits<{ go: [seconds: number]; selected: [tokens: Token[]] }>()

const page = ref<HTMLElement | null>(null)
const tokens = computed(() => tokensOf(props.transcript.words, props.transcript.pauses))

interface Block {
  key: number
  speaker: string
  named: boolean
  start: number
  first: number
  tokens: Token[]
}

/** Paragraphs as runs of tokens; a pause stands with the words before it. */
const blocks = computed<Block[]>(() => {
  const made: Block[] = []
  let n = 0
  for (const [k, paragraph] of props.transcript.paragraphs.entries()) {
    const next = props.transcript.paragraphs[k + 1]
    const until = next ? props.transcript.words[next.first]!.start : Infinity
    const first = n
    while (n < tokens.value.length && tokens.value[n]!.start < until) n++
    made.push({
      key: first,
      speaker: speakerName(paragraph.speaker),
      named: made.at(-1)?.speaker !== speakerName(paragraph.speaker),
      start: props.transcript.words[paragraph.first]!.start,
      first,
      tokens: tokens.value.slice(first, n),
    })
  }
  return made
})

const struck = computed(() => struckWords(props.doc))

function stateOf(token: Token): string {
  if (token.kind === 'word') return struck.value.has(token.word.id) ? 'cut' : ''
  const left = pauseLeft(props.doc?.plan ?? null, token.pause)
  return left === null ? '' : left < 0.08 ? 'cut' : left.toFixed(1)
}

/** What happens to each token; a paragraph's list is the same object until something in it changes. */
let lists = new Map<number, string[]>()
const states = computed(() => {
  const now = new Map<number, string[]>()
  for (const block of blocks.value) {
    const list = block.tokens.map(stateOf)
    const before = lists.get(block.key)
    const same = before?.length === list.length && list.every((state, n) => state === before[n])
    now.set(block.key, same ? before : list)
  }
  lists = now
  return now
})

const selection = useSelection(page, tokens, (token) => emit('go', token.start))
watch(selection.selected, (selected) => emit('selected', selected))
watch(toRef(props, 'doc'), () => void nextTick(selection.repaint))

const following = ref(true)
const spoken = computed(() => tokenAt(tokens.value, props.source))
watch([spoken, () => props.playing], () => {
  const token = tokens.value[spoken.value]
  const heard = token?.kind === 'word' && props.source < token.end + 0.15
  selection.paint('spoken', heard ? spoken.value : -1, spoken.value)
  if (props.playing && following.value && token) keepInView(spoken.value)
})
watch(() => props.playing, (playing) => {
  if (playing) following.value = true
})

function keepInView(n: number) {
  const element = selection.element(n)
  const around = page.value
  if (!element || !around) return
  const box = element.getBoundingClientRect()
  const frame = around.getBoundingClientRect()
  if (box.top < frame.top + 40 || box.bottom > frame.bottom - 80) element.scrollIntoView({ block: 'center' })
}

function scrolledAway() {
  if (props.playing) following.value = false
}

function comeBack() {
  following.value = true
  keepInView(spoken.value)
}

defineExpose({ move: selection.move, clear: selection.clear })
</script>

<template>
  <div class="frame">
    <div ref="page" class="page" tabindex="0" aria-label="Transcript" v-on="selection.pointer" @wheel.passive="scrolledAway">
      <section v-for="block in blocks" :key="block.key" class="paragraph">
        <div class="side">
          <span v-if="block.named" class="speaker">{{ block.speaker }}</span>
          <span class="time quiet">{{ clock(block.start, false) }}</span>
        </div>
        <p><TokenText :tokens="block.tokens" :first="block.first" :state="states.get(block.key) ?? []" /></p>
      </section>
    </div>
    <el-button v-if="playing && !following" class="back" round @click="comeBack">Back to what is heard</el-button>
  </div>
</template>

<style scoped>
.frame { position: relative; min-height: 0; height: 100%; }
.page { height: 100%; overflow-y: auto; padding: 20px 28px 120px; user-select: none; touch-action: pan-y; outline: none; border-left: 2px solid transparent; }
.paragraph { display: grid; grid-template-columns: 84px minmax(0, 62ch); gap: 16px; content-visibility: auto; contain-intrinsic-size: auto 120px; }
.side { display: flex; flex-direction: column; align-items: flex-end; padding-top: 4px; text-align: right; }
.speaker { font-size: 13px; font-weight: 600; line-height: 1.3; }
p { margin: 0 0 18px; font: 18px/1.65 var(--serif); }
.back { position: absolute; left: 50%; bottom: 20px; transform: translateX(-50%); }
.page:focus-visible { border-left-color: var(--pencil); }
</style>
