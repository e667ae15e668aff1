<script setup lang="ts">
import type { Token } from './tokens'
import WordInput from './WordInput.vue'

/** Words and pauses as text. `first` is the place of the first token; `state` says of each what happens to it. */
const props = defineProps<{ tokens: Token[]; first: number; state: string[]; doubtful: number; marked?: Set<string> /* words that captions highlight, as `origin word` */; commented?: Set<string> /* those that somebody says something of */; editing?: { first: number; last: number; text: string } | null }>()
defineEmits<{ keep: [text: string, step: number]; drop: []; join: [text: string, step: -1 | 1] }>()

function label(token: Token & { kind: 'pause' }, left: string): string {
  const whole = (token.end - token.start).toFixed(1)
  if (token.placed && !token.placed.recording) return `Gap of ${whole} s`
  return left && left !== 'cut' ? `${whole} s → ${left} s` : `${whole} s`
}

function looks(token: Token & { kind: 'word' }, state: string | undefined) {
  const unsure = token.word.kind === 'word' && token.word.confidence < props.doubtful
  const name = `${token.placed?.origin} ${token.word.id}`
  return ['word', token.word.kind, { cut: state === 'cut', doubtful: unsure, marked: props.marked?.has(name), commented: props.commented?.has(name) }]
}
</script>

<template>
  <template v-for="(token, n) in tokens" :key="token.kind === 'word' ? token.word.id : -first - n - 1"
    ><template v-if="editing && first + n >= editing.first && first + n <= editing.last"
      ><WordInput
        v-if="first + n === editing.first" :text="editing.text"
        @keep="(text, step) => $emit('keep', text, step)" @drop="$emit('drop')" @join="(text, step) => $emit('join', text, step)" /></template
    ><span
      v-else-if="token.kind === 'word'"
      :data-t="first + n"
      :class="looks(token, state[n])"
      :aria-label="state[n] === 'cut' ? `${token.word.text} (cut)` : undefined"
      >{{ token.word.text }}</span
    ><span v-else :data-t="first + n" :class="['pause', { cut: state[n] === 'cut', less: state[n] && state[n] !== 'cut' }]">{{
      label(token, state[n] ?? '')
    }}</span
    >{{ ' ' }}</template
  >
</template>

<style scoped>
.word { cursor: pointer; }
.word.filler, .word.sound { color: var(--ink-2); font-style: italic; }
.word.doubtful { text-decoration: underline dotted var(--rust); text-decoration-thickness: 2px; text-underline-offset: 4px; }
.word.cut { color: var(--ink-2); text-decoration: line-through; text-decoration-color: var(--pencil); text-decoration-thickness: 2px; }
.pause {
  padding: 0 5px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  color: var(--ink-2);
  font: 12px/1 var(--mono);
  white-space: nowrap;
  cursor: pointer;
}
.pause.cut { text-decoration: line-through; text-decoration-color: var(--pencil); text-decoration-thickness: 2px; }
.pause.less { border-color: var(--pencil); color: var(--pencil); }
.commented { border-bottom: 3px solid var(--marigold); }
.marked { box-shadow: inset 0 -2px var(--moss); }
</style>
