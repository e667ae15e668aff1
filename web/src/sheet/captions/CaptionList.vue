<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import { breakLine, captionsOf, joinBefore, moveWord, splitAt } from './arranging'
import { clock } from '@/shared/format'
import type { Doc, Edit, WordRef } from '@/document/useDocument'
import { fps } from '@/player/timeline'

/** The captions of a clip one by one, with a cursor between their words: split, joined, broken and worded by hand. */
const props = defineProps<{ doc: Doc; time: number }>()
const emit = defineEmits<{ edit: [edits: Edit[]]; go: [seconds: number]; open: [layer: string]; word: [first: WordRef, last: WordRef, hidden: boolean] }>()

const all = computed(() => captionsOf(props.doc.plan))
const list = ref<HTMLElement | null>(null)
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

const WHERE = '[data-captions]'
useCommands(() => [
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
  { id: 'caption-word', label: 'This word…', keys: ['W'], where: WHERE, run: () => word(false) },
  { id: 'caption-mark', label: 'Mark this word, or no longer', keys: ['K'], where: WHERE, run: mark },
  { id: 'caption-whole', label: 'Whole caption…', keys: ['Shift+W'], where: WHERE, run: () => word(true) },
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
    <el-button size="small" :disabled="!place" @click="word(false)">Word text… <kbd>W</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="word(true)">Caption text… <kbd>Shift+W</kbd></el-button>
    <el-button size="small" :disabled="!place" @click="mark">Highlight <kbd>K</kbd></el-button>
  </div>
  <p class="quiet">Click a word, or step with the arrows: the cursor stands before it. Alt+Up and Alt+Down give a word to a neighbour.</p>
  <ol ref="list" data-captions tabindex="0" aria-label="Captions one by one" @focus="place || stand(heard, 0)">
    <li v-for="(caption, n) in all" :key="`${caption.words[0]!.ref.origin}-${caption.words[0]!.ref.word}`" :data-n="n" :class="{ now: n === heard, own: n === place?.n }">
      <span class="time quiet">{{ clock(caption.first / fps(doc.plan)) }}</span>
      <span class="text">
        <template v-for="(each, k) in caption.words" :key="k">
          <br v-if="each.line">
          <span class="word" :class="{ cursor: n === place?.n && k === place?.k, key: each.key, aside: each.layer }" @click="stand(n, k)">{{ each.text }}</span>{{ ' ' }}
        </template>
        <i v-if="caption.fast" class="alarm">too fast to read</i>
      </span>
    </li>
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
.alarm { display: block; font: italic 13px var(--sans, inherit); }
</style>
