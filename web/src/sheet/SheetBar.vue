<script setup lang="ts">
import { computed } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import CommandMenu from '@/commands/CommandMenu.vue'
import { layingMenu } from './commands'
import type { SheetPage } from './useSheetPage'

/** What is done with the selected words, and what a person has to know before they go on. */
const props = defineProps<{ page: SheetPage }>()
const { doc, sheet, refs, choices, drawer, newer, dress, moving: { held }, laying: { barless, openLayer } } = props.page
const menu = computed(() => layingMenu(choices.value?.offers ?? []))
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Editing">
    <CommandButton id="cut" />
    <CommandButton id="bring-back" />
    <CommandButton id="correct">Correct</CommandButton>
    <CommandMenu :groups="[['to-front', 'hold-words', 'copy-words', 'repeat']]" :disabled="!refs">Move</CommandMenu>
    <CommandMenu :groups="menu" :disabled="!doc">Lay</CommandMenu>
    <CommandMenu :groups="[['add', 'gap', 'opening-card', 'end-card'], ['trim', 'split']]" :disabled="!doc">Pieces</CommandMenu>
    <span class="sep" />
    <CommandButton id="undo" :off="!sheet.canUndo.value" why="Nothing to undo since you opened this; the history reaches further" />
    <CommandButton id="redo" :off="!doc?.can_redo" />
    <CommandButton id="history" text />
    <span class="sep" />
    <CommandButton id="sweep" />
    <span class="grow" />
    <span v-if="!drawer" class="quiet keys">Space plays · Delete cuts · Ctrl+K finds a command</span>
  </div>
  <p v-if="newer" class="held" role="status">
    “{{ newer.name }}” has changed since this clip was dressed in it.
    <el-button size="small" @click="dress(newer)">Dress again</el-button>
  </p>
  <p v-if="held" class="held" role="status">
    Click the word before which this should stand, or select it and press Ctrl+V.
    <el-button size="small" @click="held = null">Cancel</el-button>
  </p>
  <div v-if="barless.length" class="barless" aria-label="Over the whole clip, or asleep">
    <button v-for="each in barless" :key="each.layer" :class="{ asleep: !each.whole }" data-test="bar" @click="openLayer(each.layer)">
      {{ each.label }}<span class="quiet">{{ each.whole ? ' over all' : ' asleep' }}</span>
    </button>
  </div>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
.grow { flex: 1; }
.keys { font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.held { display: flex; gap: 10px; align-items: center; margin: 0; padding: 6px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.barless { display: flex; flex-wrap: wrap; gap: 6px; padding: 6px 20px; border-bottom: 1px solid var(--rule); }
.barless button { padding: 2px 8px; border: 0; border-left: 3px solid var(--pencil); background: #e4ebf8; font-size: 13px; cursor: pointer; }
.barless .asleep { border-left-color: var(--ink-2); background: var(--paper-2); }
@media (width < 1400px) {
  .keys { display: none; }
}
@media (width < 1180px) {
  .bar { padding: 8px 12px; }
}
@media (width < 900px) {
  .bar { padding: 4px 8px; }
  .bar .el-button { padding: 4px 7px; }
}
</style>
