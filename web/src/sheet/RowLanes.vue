<script setup lang="ts">
import type { Doc } from '@/document/useDocument'
import BarLevel from './BarLevel.vue'
import BarPicture from './BarPicture.vue'
import type { Line, Segment } from './bars'

/** The lanes beside one row: of each, the segments of its bars; those that overlap stand side by side. */
defineProps<{ lanes: { lane: string; segments: Segment[] }[]; line: Line; chosen: string | null; doc: Doc; beats: boolean; peaks: Map<string, Uint8Array> }>()
defineEmits<{ choose: [layer: string]; grab: [segment: Segment, edge: 'first' | 'last', event: PointerEvent] }>()
const percent = (part: number) => `${part * 100}%`
</script>

<template>
  <div class="lanes">
    <div v-for="each in lanes" :key="each.lane" class="lane" :class="each.lane">
      <button
        v-for="segment in each.segments" :key="segment.bar.layer" class="bar" :class="{ chosen: segment.bar.layer === chosen, begins: segment.begins }"
        :style="{ top: percent(segment.top), bottom: percent(1 - segment.bottom), left: percent(segment.column / segment.of), width: `calc(${percent(1 / segment.of)} - 2px)` }"
        :title="segment.bar.label" :tabindex="segment.begins ? 0 : -1" :aria-label="segment.begins ? segment.bar.label : undefined"
        :aria-hidden="segment.begins ? undefined : 'true'" data-test="bar" :data-layer="segment.bar.layer" @click.stop="$emit('choose', segment.bar.layer)"
      >
        <BarLevel v-if="each.lane === 'sound'" :segment="segment" :line="line" :doc="doc" :beats="beats" />
        <i v-if="segment.begins" class="edge top" title="Drag to other words" @pointerdown.stop.prevent="$emit('grab', segment, 'first', $event)"></i>
        <BarPicture v-if="segment.begins && segment.bar.media" :bar="segment.bar" :doc="doc" :peaks="peaks.get(segment.bar.media) ?? null" />
        <span v-if="segment.begins">{{ segment.bar.label }}</span>
        <i v-if="segment.ends" class="edge bottom" title="Drag to other words" @pointerdown.stop.prevent="$emit('grab', segment, 'last', $event)"></i>
      </button>
    </div>
  </div>
</template>

<style scoped>
.lanes { display: flex; gap: 6px; align-self: stretch; max-width: 56rem; }
.lane { position: relative; flex: 1; min-width: 0; margin: -4px 0; border-left: 1px solid var(--rule); }
.bar {
  position: absolute; display: flex; gap: 4px; align-items: flex-start; min-height: 14px; padding: 0 3px; overflow: hidden; border: 0; border-left: 3px solid var(--pencil);
  background: #e4ebf8; color: var(--ink); font: 12px/1.25 var(--sans); text-align: left; cursor: pointer;
}
.bar span { display: block; min-width: 0; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
i.edge { position: absolute; right: 0; left: 0; height: 5px; cursor: ns-resize; touch-action: none; }
.edge.top { top: 0; }
.edge.bottom { bottom: 0; }
.edge:hover { background: var(--pencil); opacity: 0.5; }
.bar.begins { border-top-left-radius: 3px; }
.sound .bar { border-color: var(--moss); background: #e3ecdf; }
.screen .bar { border-color: var(--plum); background: #efe3ef; }
.text .bar { border-color: var(--rust); background: #f6e5d9; }
.bar.chosen { border-left-width: 6px; background: #c6d6f3; z-index: 1; }
.lanes, .bar, .bar span { &::highlight(selected), &::highlight(drop) { background-color: transparent; } }
</style>
