<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import { hiddenIn } from '@/sheet/kinds/wording/hidden'
import { breakLine, captionsOf, joinBefore, moveWord, splitAt } from './arranging'
import { clock } from '@/shared/format'
import type { Doc, Edit, WordRef } from '@/document/useDocument'
import { fps } from '@/player/timeline'

/** The captions of a clip one by one, with a cursor between their words: split, joined, broken and worded by hand. */
const props = defineProps<{ doc: Doc; time: number }>()
const emit = defineEmits<{ edit: [edits: Edit[]]; go: [seconds: number]; open: [layer: string]; word: [first: WordRef, last: WordRef, hidden: boolean]; write: [first: WordRef, last: WordRef, text: string] }>()

const all = computed(() => captionsOf(props.doc.plan))
const hidden = computed(() => hiddenIn(props.doc))
/** All captions, and what is hidden where it would be. */
const lines = computed(() => {
  const left = [...hidden.value]
  const made: ({ n: number } | { hidden: (typeof left)[number] })[] = []
  all.value.forEach((caption, n) => {
    while (left[0] && left[0].at * fps(props.doc.plan) < caption.first) made.push({ hidden: left.shift()! })
    made.push({ n })
  })
  return [...made, ...left.map((each) => ({ hidden: each }))]
})
const list = ref<HTMLElement | null>(null)
/** What is being written in place: a word of a caption, or (`k` null) the whole of it. */
const writing = ref<{ n: number; k: number | null; text: string } | null>(null)

async function write(whole: boolean) {
  if (!place.value) return
  const { n, k } = place.value
  const { words } = all.value[n]!
  if (words[k]!.layer) return emit('open', words[k]!.layer!)
  writing.value = { n, k: whole ? null : k, text: (whole ? words : [words[k]!]).map((each) => each.text).join(' ') }
  await nextTick()
  const field = list.value?.querySelector<HTMLInputElement>('input')
  field?.focus()
  field?.select()
}

function keep() {
  const now = writing.value
  writing.value = null
  if (!now) return
  const { words } = all.value[now.n]!
  const own = now.k === null ? words : [words[now.k]!]
  const text = now.text.trim()
  if (text && text !== own.map((each) => each.text).join(' ')) emit('write', own[0]!.ref, own.at(-1)!.ref, text)
  list.value?.focus()
}

function drop() {
  writing.value = null
  list.value?.focus()
}
const at = ref<WordRef | null>(null) // the word before which the cursor stands
const place = computed(() => {
  const n = all.value.findIndex((each) => each.words.some((word) => same(word.ref, at.value)))
  return n < 0 ? null : { n, k: all.value[n]!.words.findIndex((word) => same(word.ref, at.value)) }
})
const heard = computed(() => all.value.findLastIndex((each) => each.first <= props.time * fps(props.doc.plan) + 0.5))

const same = (one: WordRef, two: WordRef | null) => one.origin === two?.origin && one.word === two?.word

function stand(n: number, k: number) {
  const caption = all.value[Math.min(Math.max(n, 0), all.value.length - 1)]
  if (!caption) return
  at.value = caption.words[Math.min(k, caption.words.length - 1)]!.ref
  emit('go', (caption.first + 0.5) / fps(props.doc.plan))
}

function step(by: -1 | 1) {
  if (!place.value) return stand(heard.value, 0)
  const { n, k } = place.value
  if (k + by < 0) stand(n - 1, Infinity)
  else if (k + by >= all.value[n]!.words.length) stand(n + 1, 0)
  else at.value = all.value[n]!.words[k + by]!.ref
}

const line = (by: -1 | 1) => (place.value ? stand(place.value.n + by, 0) : stand(heard.value, 0))
const on = (make: (n: number, k: number) => Edit[]) => () => { if (place.value) emit('edit', make(place.value.n, place.value.k)) }
const split = on((n, k) => splitAt(all.value, n, k))
const join = on((n) => joinBefore(all.value, n))
const broken = on((n, k) => breakLine(all.value, n, k))
const back = on((n) => moveWord(all.value, n, -1))
const ahead = on((n) => moveWord(all.value, n, 1))

function word(whole: boolean, hidden = false) {
  if (!place.value) return
  const { words } = all.value[place.value.n]!
  const own = words[place.value.k]!
  if (own.layer) return emit('open', own.layer)
  emit('word', (whole ? words[0]! : own).ref, (whole ? words.at(-1)! : own).ref, hidden)
}

function mark() {
  const own = place.value && all.value[place.value.n]!.words[place.value.k]!
  if (own && !own.layer) emit('edit', [{ type: 'mark_keywords', words: [own.ref], marked: !own.key }])
}

const WHERE = '[data-captions]:not(:has(input))' // while a caption is written, keys are its field's
useCommands(() => [
  { id: 'caption-keep', label: 'Keep the caption', keys: ['Enter'], where: '[data-caption-field]', run: keep },
  { id: 'caption-drop', label: 'Leave the caption as it was', keys: ['Escape'], where: '[data-caption-field]', run: drop },
  { id: 'caption-left', label: 'The word before', keys: ['Left'], where: WHERE, run: () => step(-1) },
  { id: 'caption-right', label: 'The next word', keys: ['Right'], where: WHERE, run: () => step(1) },
  { id: 'caption-up', label: 'The caption before', keys: ['Up'], where: WHERE, run: () => line(-1) },
  { id: 'caption-down', label: 'The next caption', keys: ['Down'], where: WHERE, run: () => line(1) },
  { id: 'caption-split', label: 'Split here', keys: ['Enter'], where: WHERE, run: split },
  { id: 'caption-line', label: 'New line here', keys: ['Shift+Enter'], where: WHERE, run: broken },
  { id: 'caption-join', label: 'Join to the one before', keys: ['Backspace'], where: WHERE, run: () => { if (place.value?.k === 0) join() } },
  { id: 'caption-back', label: 'First word to the one before', keys: ['Alt+Up'], where: WHERE, run: back },
  { id: 'caption-on', label: 'Last word to the next', keys: ['Alt+Down'], where: WHERE, run: ahead },
  { id: 'caption-hide', label: 'Hide it', keys: ['Delete'], where: WHERE, run: () => word(true, true) },
  { id: 'caption-word', label: 'This word…', keys: ['W'], where: WHERE, run: () => void write(false) },
  { id: 'caption-mark', label: 'Mark this word, or no longer', keys: ['K'], where: WHERE, run: mark },
  { id: 'caption-whole', label: 'Whole caption…', keys: ['Shift+W'], where: WHERE, run: () => void write(true) },
])

// The caption that is heard comes into view while it plays; the one with the cursor always.
watch([() => place.value?.n, heard], async ([own, now], [before]) => {
  await nextTick()
  const n = own !== before && own !== undefined ? own : now
  list.value?.querySelector(`[data-n="${n}"]`)?.scrollIntoView({ block: 'nearest' })
})
</script>

<template>
  <div class="tools">
    <el-button size="small" :disabled="!place || place.k === 0" @click="split">Split <kbd>Enter</kbd></el-button>
    <el-button size="small" :disabled="!place || place.n === 0" @click="join">Join <kbd>Backspace</kbd></el-button>
    <el-button size="small" :disabled="!place || place.k === 0" @click="broken">Line break <kbd>Shift+Enter</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="word(true, true)">Hide <kbd>Delete</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="write(false)">Word text <kbd>W</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="write(true)">Caption text <kbd>Shift+W</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="word(true)">Colour, size…</el-button>
    <el-button size="small" :disabled="!place" @click="mark">Highlight <kbd>K</kbd></el-button>
  </div>
  <p class="quiet">Click a word, or step with the arrows; double-click to write it otherwise. Alt+Up and Alt+Down give a word to a neighbour.</p>
  <ol ref="list" data-captions tabindex="0" aria-label="Captions one by one" @focus="place || stand(heard, 0)">
    <template v-for="each in lines" :key="'hidden' in each ? each.hidden.layer : `${all[each.n]!.words[0]!.ref.origin}-${all[each.n]!.words[0]!.ref.word}`">
      <li v-if="'hidden' in each" class="hidden" data-test="hidden-caption">
        <span class="time quiet">{{ clock(each.hidden.at) }}</span>
        <span class="text">{{ each.hidden.text }}</span>
        <el-button size="small" text @click="$emit('edit', [{ type: 'remove_layer', layer: each.hidden.layer }])">Show again</el-button>
      </li>
      <li v-else :data-n="each.n" :class="{ now: each.n === heard, own: each.n === place?.n }">
        <span class="time quiet">{{ clock(all[each.n]!.first / fps(doc.plan)) }}</span>
        <span class="text">
          <input v-if="writing?.n === each.n && writing.k === null" v-model="writing.text" class="whole" data-caption-field maxlength="300" aria-label="Caption text" @blur="keep">
          <template v-for="(shown, k) in all[each.n]!.words" v-else :key="k">
            <br v-if="shown.line">
            <input v-if="writing?.n === each.n && writing.k === k" v-model="writing.text" :size="Math.max(writing.text.length, 4)" data-caption-field maxlength="300" aria-label="Word text" @blur="keep">
            <span v-else class="word" :class="{ cursor: each.n === place?.n && k === place?.k, key: shown.key, aside: shown.layer }" @click="stand(each.n, k)" @dblclick="write(false)">{{ shown.text }}</span>{{ ' ' }}
          </template>
          <i v-if="all[each.n]!.fast" class="alarm">too fast to read</i>
          <i v-if="all[each.n]!.overFace" class="alarm">over a face</i>
        </span>
      </li>
    </template>
  </ol>
  <p v-if="!all.length" class="quiet">There is nothing to caption: no words are left in this clip, or all of them are hidden.</p>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; gap: 6px; }
.tools .el-button { margin-left: 0; }
kbd { margin-left: 5px; color: var(--ink-2); font: 11px var(--mono); }
p { margin: 0; font-size: 13px; }
ol { flex: 1; min-height: 0; margin: 0; padding: 0; overflow-y: auto; list-style: none; }
ol:focus-visible { outline: 2px solid var(--pencil); outline-offset: 2px; }
li { display: flex; gap: 10px; align-items: baseline; padding: 5px 4px; border-bottom: 1px solid var(--rule); content-visibility: auto; contain-intrinsic-size: auto 34px; }
li.now { background: var(--paper-2); }
li.own { box-shadow: inset 3px 0 var(--pencil); }
.text { font: 16px/1.4 var(--serif); }
.word { cursor: text; }
.word.key { background: var(--paper-2); box-shadow: inset 0 -2px var(--pencil); }
.word.aside { color: var(--ink-2); font-style: italic; }
.word.cursor { box-shadow: -2px 0 var(--pencil); }
.hidden .text { flex: 1; color: var(--ink-2); text-decoration: line-through; }
input { border: 1px solid var(--pencil); border-radius: 3px; background: var(--paper); color: var(--ink); font: inherit; }
input.whole { width: 100%; }
.alarm { display: block; font: italic 13px var(--sans, inherit); }
</style>
