<script setup lang="ts">
import { clock, size } from '@/shared/format'
import { useLeft, type BrokenOff } from './useLeft'

/** What was broken off while it was recorded: kept, or thrown away. */
const props = defineProps<{ looks: boolean; of?: (entry: BrokenOff) => boolean }>()
const emit = defineEmits<{ kept: [recording: string] }>()
const { list, trouble, working, keep, forget } = useLeft(() => props.looks)

async function take(entry: BrokenOff) {
  const made = await keep(entry)
  if (made) emit('kept', made)
}
</script>

<template>
  <div v-for="each in list.filter((one) => !of || of(one))" :key="each.id" class="broken" data-test="broken-off">
    <span>“{{ each.name }}” was broken off{{ each.seconds === null ? '' : ` after ${clock(each.seconds)}` }}.<template v-if="each.left"> What did not arrive is still in this browser ({{ size(each.left.size) }} in all).</template></span>
    <el-button size="small" :loading="working === each.id" @click="take(each)">Keep it</el-button>
    <el-button size="small" text @click="forget(each)">Throw it away</el-button>
    <span v-if="working === each.id && trouble" class="alarm" role="alert">{{ trouble }}</span>
  </div>
</template>

<style scoped>
.broken { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 8px; border: 1px solid var(--rule); border-radius: 4px; font-size: 14px; }
.broken .el-button { margin: 0; }
</style>
