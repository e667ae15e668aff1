<script setup lang="ts">
import BringInLine from '@/recordings/BringInLine.vue'
import { busy, prepareAgain } from '@/recordings/recording'
import { cancelJob } from '@/shared/jobs'
import type { DeskPage } from './useDeskPage'

/** What a person has to know of a recording before they go on: the correction just made, what went wrong, how far it is. */
const props = defineProps<{ page: DeskPage }>()
const { fixing, recording, now, bringIn, stopped, act } = props.page
</script>

<template>
  <p v-if="fixing.last.value" class="state fix" role="status">
    Changed “{{ fixing.last.value.from }}” to “{{ fixing.last.value.to }}”.
    <el-button v-if="fixing.last.value.more.length" size="small" @click="fixing.lookEverywhere(fixing.last.value.from, fixing.last.value.to)">
      Replace everywhere ({{ fixing.last.value.more.length }} more)
    </el-button>
    <el-button size="small" @click="fixing.addTerm">Add to names &amp; terms</el-button>
    <el-button text size="small" @click="fixing.last.value = null">Dismiss</el-button>
  </p>
  <p v-if="recording.error.value" class="state alarm" role="alert">
    {{ recording.error.value.message }} <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink>
  </p>
  <div v-if="now && (busy(now, ['bringing in']) || stopped)" class="state">
    <BringInLine :jobs="bringIn" :name="now.title" @cancel="act(cancelJob($event))" @retry="act(prepareAgain(now))" />
  </div>
  <p v-if="now?.notice" class="state">{{ now.notice }}</p>
</template>

<style scoped>
.state { margin: 0; padding: 8px 28px; border-bottom: 1px solid var(--rule); background: var(--paper-2); font-size: 14px; }
.fix { display: flex; gap: 10px; align-items: center; padding: 6px 20px; }
.fix .el-button { margin-left: 0; }
</style>
