<script setup lang="ts">
import CommandButton from '@/commands/CommandButton.vue'
import type { DeskPage } from './useDeskPage'

/** What is done with the selected words, and the words and cuts of all of it saved. */
const props = defineProps<{ page: DeskPage }>()
const { id, doc, sheet, selected, doubts, doubt } = props.page

const TIMELINES = ['otio', 'edl']
function download(kind: string) {
  const desk = doc.value
  window.location.assign(TIMELINES.includes(kind) && desk ? `/api/documents/${desk.id}/editions/${desk.edition}/timeline.${kind}` : `/api/recordings/${id.value}/transcript.${kind}`)
}
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Editing">
    <CommandButton id="cut" />
    <CommandButton id="bring-back" />
    <CommandButton id="correct" :off="!selected.length" why="Select the words to correct first" />
    <span class="sep" />
    <CommandButton id="undo" :off="!sheet.canUndo.value" why="Nothing to undo since you opened this; the history reaches further" />
    <CommandButton id="redo" :off="!doc?.can_redo" />
    <CommandButton id="history" text />
    <CommandButton id="find" text />
    <el-button v-if="doc && doubts.length" text title="Go to the next word the recogniser was not sure of (D; Shift+D the one before)" @click="doubt(1)">
      {{ doubts.length }} word{{ doubts.length === 1 ? '' : 's' }} to check
    </el-button>
    <span class="grow" />
    <el-dropdown append-to="#menus" trigger="click" :disabled="!doc" @command="download">
      <el-button text :disabled="!doc">Download</el-button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item command="txt">Text (TXT)</el-dropdown-item>
          <el-dropdown-item command="srt">Subtitles (SRT)</el-dropdown-item>
          <el-dropdown-item command="vtt">Subtitles (VTT)</el-dropdown-item>
          <el-dropdown-item command="json">Words with timecodes (JSON)</el-dropdown-item>
          <el-dropdown-item command="otio" divided>The cuts, for another editor (OTIO)</el-dropdown-item>
          <el-dropdown-item command="edl">The cuts, for another editor (EDL)</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </div>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 10px 20px; border-bottom: 1px solid var(--rule); }
.bar .el-button + .el-button { margin-left: 0; }
.sep { width: 6px; }
.grow { flex: 1; }
@media (width < 1180px) {
  .bar { padding: 8px 12px; }
}
@media (width < 900px) {
  .bar { padding: 4px 8px; }
  .bar .el-button { padding: 4px 7px; }
}
</style>
