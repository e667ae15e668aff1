<script setup lang="ts">
import { computed } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import CommandMenu from '@/commands/CommandMenu.vue'
import { addMenu, SELECTION } from './commands'
import type { SheetPage } from './useSheetPage'

/** What is done most with the selected words, beside them. Each has a key of its own, too. */
const props = defineProps<{ page: SheetPage }>()
const menu = computed(() => addMenu(props.page.choices.value?.offers ?? []))
</script>

<template>
  <div class="selection" role="toolbar" aria-label="The selected words">
    <CommandButton v-for="(label, id) in SELECTION" :id="id" :key="id" size="small">{{ label }}</CommandButton>
    <CommandMenu :columns="menu" size="small">More</CommandMenu>
  </div>
</template>

<style scoped>
.selection { display: flex; gap: 1px; align-items: center; height: 26px; padding: 0 3px; border: 1px solid var(--ink-2); border-radius: 6px; background: var(--paper); box-shadow: var(--el-box-shadow-light); white-space: nowrap; }
.selection :deep(.el-button) { height: 22px; padding: 0 6px; border: 0; font-size: 12px; }
.selection .el-button + .el-button { margin-left: 0; }
</style>
