<script setup lang="ts">
import { timeLeft } from '@/composables/format'
import { active, type Job } from '@/composables/useRecording'

/** How one piece of long work stands, with a way to stop it or try again. */
defineProps<{ job: Job }>()
defineEmits<{ cancel: []; retry: [] }>()
</script>

<template>
  <div class="job" :data-state="job.state">
    <template v-if="active(job)">
      <span class="stage">{{ job.state === 'queued' ? 'Waiting its turn' : job.stage }}</span>
      <el-progress :percentage="Math.round(job.progress * 100)" :stroke-width="6" />
      <span class="quiet left">{{ timeLeft(job.seconds_left) }}</span>
      <el-button text size="small" @click="$emit('cancel')">Cancel</el-button>
    </template>
    <template v-else-if="job.state === 'failed'">
      <span class="alarm" role="alert">{{ job.error }}</span>
      <el-button size="small" @click="$emit('retry')">Retry</el-button>
    </template>
    <template v-else-if="job.state === 'cancelled'">
      <span class="quiet">Cancelled.</span>
      <el-button size="small" @click="$emit('retry')">Go on</el-button>
    </template>
  </div>
</template>

<style scoped>
.job { display: flex; gap: 10px; align-items: center; font-size: 13px; min-width: 0; }
.stage { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.el-progress { flex: 1; min-width: 76px; }
.job .el-button { margin-left: auto; }
.left { white-space: nowrap; }
</style>
