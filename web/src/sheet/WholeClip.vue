<script setup lang="ts">
import type { SheetPage } from './useSheetPage'

/** What a person has to know before they go on, and what lies over the whole clip, or sleeps: it has no bar beside the rows. */
const props = defineProps<{ page: SheetPage }>()
const { doc, newer, dress, drawer, moving: { held }, laying: { barless, openLayer, layer } } = props.page
</script>

<template>
  <p v-if="newer" class="held" role="status">
    “{{ newer.name }}” has changed since this clip was given it.
    <el-button size="small" @click="dress(newer)">Apply again</el-button>
  </p>
  <p v-if="held" class="held" role="status">
    Click the word before which this should stand, or select it and press Ctrl+V.
    <el-button size="small" @click="held = null">Cancel</el-button>
  </p>
  <div v-if="doc" class="whole" role="group" aria-label="Over the whole clip, or asleep">
    <span class="quiet">Whole clip</span>
    <button v-for="each in barless" :key="each.layer" :class="{ asleep: !each.whole, chosen: drawer === 'layer' && each.layer === layer }" data-test="bar" :data-layer="each.layer" @click="openLayer(each.layer)">
      {{ each.label }}<span v-if="!each.whole" class="quiet"> (asleep)</span>
    </button>
    <span v-if="!barless.length" class="quiet">nothing yet: <b>Add</b> has logo, music, progress bar, framing</span>
  </div>
</template>

<style scoped>
.held { display: flex; gap: 10px; align-items: center; margin: 0; padding: 6px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.whole { display: flex; flex: none; gap: 6px; align-items: center; height: 34px; padding: 0 20px; border-bottom: 1px solid var(--rule); font-size: 13px; white-space: nowrap; overflow: auto hidden; scrollbar-width: thin; }
button { padding: 2px 8px; border: 0; border-left: 3px solid var(--pencil); background: #e4ebf8; color: var(--ink); cursor: pointer; }
.asleep { border-left-color: var(--ink-2); background: var(--paper-2); }
.chosen { outline: 1px solid var(--pencil); }
@media (width < 900px) {
  .whole { padding: 0 8px; }
}
</style>
