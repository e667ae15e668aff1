<script setup lang="ts">
import type { Token } from '@/composables/tokens'

/** Words and pauses as text. `first` is the place of the first token; `state` says of each what happens to it. */
defineProps<{ tokens: Token[]; first: number; state: string[] }>()

function label(token: Token & { kind: 'pause' }, left: string): string {
  const whole = (token.end - token.start).toFixed(1)
  return left && left !== 'cut' ? `${whole} s → ${left} s` : `${whole} s`
}
</script>

<template>
  <template v-for="(token, n) in tokens" :key="first + n"
    ><span
      v-if="token.kind === 'word'"
      :data-t="first + n"
      :class="['word', token.word.kind, { cut: state[n] === 'cut' }]"
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
.word.filler { color: var(--ink-2); font-style: italic; }
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
</style>
