<script setup lang="ts">
import { computed } from 'vue'
import { timeLeft } from './format'
import { active, type Job } from './jobs'

/** How long work stands, with a way to stop it or try again. `name` says what it is for. */
const props = defineProps<{ job: Job; name: string }>()
defineEmits<{ cancel: []; retry: [] }>()

const doing = computed(() => {
  if (props.job.state !== 'queued') return props.job.stage
  if (props.job.with_another) return 'Rendering with the other version'
  const others = props.job.waits_for
  return others ? `Waiting for ${others} other job${others === 1 ? '' : 's'}` : 'Starting'
})
</script>

<template>
  <div class="job" :data-state="job.state">
    <template v-if="active(job)">
      <span class="stage">{{ doing }}</span>
      <el-progress :percentage="Math.round(job.progress * 100)" :stroke-width="6" :aria-label="`${name}: ${doing}`" />
      <span class="quiet left">{{ timeLeft(job.seconds_left) }}</span>
      <el-button text size="small" :aria-label="`Cancel: ${name}`" @click="$emit('cancel')">Cancel</el-button>
    </template>
    <template v-else-if="job.state === 'failed'">
      <span class="alarm" role="alert">{{ job.error }}</span>
      <el-button size="small" @click="$emit('retry')">Retry</el-button>
    </template>
    <template v-else-if="job.state === 'cancelled'">
      <span class="quiet">Cancelled.</span>
      <el-button size="small" @click="$emit('retry')">Resume</el-button>
    </template>
  </div>
</template>

<style scoped>
.job { display: flex; flex-wrap: wrap; gap: 4px 10px; align-items: center; font-size: 13px; min-width: 0; }
.stage { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.el-progress { flex: 1 1 110px; min-width: 110px; } /* where there is no room beside what is being done, below it */
.job .el-button { margin-left: auto; }
.left { white-space: nowrap; }
</style>
