<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'

/** The words of a file as they are said in it: the one that is heard is marked, and one that is pressed is gone to. */
const props = defineProps<{ paragraphs: Schemas['SaidParagraph'][]; time: number; marked?: Set<number> }>()
defineEmits<{ go: [seconds: number, word: Schemas['SaidWord']] }>()

const all = computed(() => props.paragraphs.flatMap((each) => each.words))
const now = computed(() => all.value.findLast((word) => word.start <= props.time + 0.02)?.n ?? -1)
const list = ref<HTMLElement | null>(null)
const calm = window.matchMedia('(prefers-reduced-motion: reduce)')
watch(now, (n) => void nextTick(() => list.value?.querySelector(`[data-word="${n}"]`)?.scrollIntoView({ block: 'center', behavior: calm.matches ? 'auto' : 'smooth' })))
</script>

<template>
  <div ref="list" class="said" lang="en">
    <p v-for="(each, k) in paragraphs" :key="k">
      <template v-for="word in each.words" :key="word.n">
        <span class="word" :class="{ now: word.n === now, marked: marked?.has(word.n) }" :data-word="word.n" @click="$emit('go', word.start, word)">{{ word.text }}</span>{{ ' ' }}
      </template>
    </p>
    <p v-if="!paragraphs.length" class="quiet">Nothing is said in it.</p>
  </div>
</template>

<style scoped>
.said { font: 18px/1.7 var(--serif); }
.said p { margin: 0 0 0.8em; }
.word { padding: 1px 1px 2px; border-radius: 3px; cursor: pointer; }
.word:hover { text-decoration: underline; text-decoration-thickness: 1px; }
.marked { border-bottom: 2px solid var(--marigold); }
.now { background: var(--marigold); color: var(--ink); }
</style>
