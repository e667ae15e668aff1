<script setup lang="ts">
import { computed } from 'vue'
import type { Doc } from '@/document/useDocument'
import type { Line, Segment } from './bars'
import { drawnIn } from './levels'

/** How loud a sound is down its bar beside a row: the fuller, the louder; and its beats, where they are asked for. */
const props = defineProps<{ segment: Segment; line: Line; doc: Doc; beats: boolean }>()
const drawn = computed(() => drawnIn(props.segment, props.line, props.doc))
const shape = computed(() => (drawn.value.curve.length ? `0,0 ${drawn.value.curve.map(([down, level]) => `${level * 100},${down * 100}`).join(' ')} 0,100` : ''))
</script>

<template>
  <svg v-if="shape" class="level" viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true" data-test="bar-level">
    <polygon :points="shape" />
    <template v-if="beats"><line v-for="beat in drawn.beats" :key="beat" x1="88" x2="100" :y1="beat * 100" :y2="beat * 100" /></template>
  </svg>
</template>

<style scoped>
svg { position: absolute; inset: 0; width: 100%; height: 100%; pointer-events: none; }
polygon { fill: var(--moss); opacity: 0.22; }
line { stroke: var(--moss); stroke-width: 1; vector-effect: non-scaling-stroke; }
</style>
