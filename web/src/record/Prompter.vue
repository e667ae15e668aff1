<script setup lang="ts">
import { useElementSize, useLocalStorage, useRafFn } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { goOn, lineAt, lineFrom, type Heard } from './prompting'
import type { Script } from './useScripts'

/** A script that runs past the place where one reads. `still` is one that is scrolled by hand. */
const props = defineProps<{
  script: Script
  pace: number
  still?: boolean
  runs?: boolean
  mirrored?: boolean
  from?: number // the line to begin with
  heard?: Heard | null
}>()
const emit = defineEmits<{ end: []; word: [word: number] }>()

const looks = useLocalStorage('hovvet-prompter', { size: 34, width: 80, eye: 30 }, { mergeDefaults: true }) // px, shares of the width and height in hundredths
const box = ref<HTMLElement | null>(null)
const page = ref<HTMLElement | null>(null)
const { width, height } = useElementSize(box)
const word = ref(0)
const tops = ref<number[]>([]) // where lines begin, in px, and after the last where it ends

const starts = computed(() => props.script.lines.reduce<number[]>((all, line) => [...all, all.at(-1)! + line.words], [0]))
const words = computed(() => starts.value.at(-1) ?? 0)
const now = computed(() => lineAt(starts.value.slice(0, -1), word.value))
const eye = computed(() => (height.value * looks.value.eye) / 100)
const shift = computed(() => {
  const n = now.value
  const top = tops.value[n] ?? 0, next = tops.value[n + 1] ?? top
  const part = (word.value - starts.value[n]!) / Math.max(props.script.lines[n]?.words ?? 1, 1)
  return eye.value - top - (next - top) * Math.min(part, 1)
})

async function measure() {
  await nextTick()
  const lines = [...(page.value?.querySelectorAll<HTMLElement>('[data-line]') ?? [])]
  tops.value = [...lines.map((each) => each.offsetTop), page.value?.scrollHeight ?? 0]
}
watch([width, height, () => props.script.lines, () => looks.value.size, () => looks.value.width], measure, { immediate: true, flush: 'post', deep: false })
let ended = false
let before = 0
watch(() => [props.from, props.script.id], () => go(starts.value[props.from ?? 0] ?? 0), { immediate: true })

useRafFn(({ timestamp }) => {
  const seconds = Math.min((timestamp - before) / 1000, 0.25)
  before = timestamp
  if (props.still || !props.runs) return
  go(goOn(word.value, seconds, timestamp / 1000, { pace: props.pace, holds: false, heard: props.heard ?? null }, words.value))
  if (word.value >= words.value && !ended) {
    ended = true
    emit('end')
  }
})

function go(to: number) {
  if (to < words.value) ended = false
  word.value = to
  emit('word', to)
}
defineExpose({
  /** To the line before, or the next one. */
  line: (by: -1 | 1) => go(lineFrom(starts.value.slice(0, -1), word.value, by)),
  looks,
})
</script>

<template>
  <div ref="box" class="prompter" :class="{ mirrored, still }" :dir="script.right_to_left ? 'rtl' : 'ltr'" data-test="prompter" :data-word="Math.floor(word)" :data-line-now="now" :tabindex="still ? 0 : undefined" :role="still ? 'document' : undefined" aria-label="Prompter">
    <div ref="page" class="text" :style="{ fontSize: `${looks.size}px`, width: `${looks.width}%`, transform: still ? undefined : `translateY(${shift}px)` }">
      <p v-for="(line, n) in script.lines" :key="n" :data-line="n" :class="{ now: n === now && !still, apart: n > 0 && line.part !== script.lines[n - 1]!.part, card: script.kind === 'cards' }">{{ line.text }}</p>
    </div>
    <i v-if="!still" class="eye" :style="{ top: `${eye}px` }"></i>
  </div>
</template>

<style scoped>
.prompter { position: relative; overflow: hidden; background: #14171c; color: #c9ccd3; }
.still { overflow-y: auto; }
.mirrored { transform: scaleX(-1); }
.text { position: relative; margin: 0 auto; font-family: var(--sans); font-weight: 500; line-height: 1.35; will-change: transform; }
.still .text { padding: 16px 0; }
p { margin: 0; }
.apart { margin-top: 0.6em; }
.card { padding-bottom: 1.2em; }
.now { color: #fff; }
.eye { position: absolute; left: 0; width: 10px; height: 1.4em; border-left: 5px solid var(--marigold); pointer-events: none; }
[dir='rtl'] .eye { right: 0; left: auto; }
</style>
