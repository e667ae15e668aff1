<script setup lang="ts">
import { computed } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import CommandMenu from '@/commands/CommandMenu.vue'
import { CLIP_MENU, addMenu } from './commands'
import type { SheetPage } from './useSheetPage'

/** What is always at hand: going back, cleaning up, all that can be added, how the clip looks. */
const props = defineProps<{ page: SheetPage }>()
const { doc, sheet, choices } = props.page
const captionsNow = computed(() => {
  const now = doc.value?.sheet
  return now?.captions ? `Captions: ${now.style?.name ?? choices.value?.captions[now.captions]?.name ?? ''}` : 'No captions'
})
const menu = computed(() => addMenu(choices.value?.offers ?? []))
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Editing">
    <CommandButton id="undo" :off="!sheet.canUndo.value" why="Nothing to undo since you opened this; the history reaches further">Undo</CommandButton>
    <CommandButton id="redo" :off="!doc?.can_redo">Redo</CommandButton>
    <CommandButton id="history" />
    <CommandButton id="sweep" />
    <span class="sep" />
    <CommandMenu :columns="menu" :disabled="!doc" class="add">Add</CommandMenu>
    <CommandButton id="captions">{{ captionsNow }}</CommandButton>
    <CommandButton id="mix">Sound</CommandButton>
    <CommandButton id="house">House style</CommandButton>
    <CommandMenu :columns="CLIP_MENU" :disabled="!doc">Clip</CommandMenu>
  </div>
</template>

<style scoped>
.bar { display: flex; flex: none; gap: 6px; align-items: center; padding: 8px 20px; border-bottom: 1px solid var(--rule); overflow: auto hidden; scrollbar-width: none; }
.bar > * { flex: none; }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
@media (width < 1180px) {
  .bar { padding: 8px 12px; }
}
@media (width < 900px) {
  .bar { gap: 4px; padding: 4px 8px; }
  .bar :deep(.el-button) { padding: 4px 8px; }
}
</style>
