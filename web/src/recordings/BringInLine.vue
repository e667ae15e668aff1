<script setup lang="ts">
import { computed } from 'vue'
import { timeLeft } from '@/shared/format'
import { active, type Job } from '@/shared/jobs'
import JobLine from '@/shared/JobLine.vue'

/** How far a recording is in being brought in: one line for all the jobs that do it. */
const props = defineProps<{ jobs: Job[]; name: string }>()
defineEmits<{ cancel: [job: Job]; retry: [] }>()

const running = computed(() => props.jobs.filter(active))
const stopped = computed(() => props.jobs.filter((job) => job.state === 'failed' || job.state === 'cancelled'))
const started = computed(() => running.value.filter((job) => job.state === 'running'))
const doing = computed(() => started.value.map((job) => job.stage).join(' · '))
const progress = computed(() => running.value.reduce((sum, job) => sum + job.progress, 0) / Math.max(running.value.length, 1))
/** The slowest says how long it takes; nobody can say while one still waits. */
const left = computed(() => {
  const times = running.value.map((job) => job.seconds_left)
  return times.some((seconds) => seconds === null) ? null : Math.max(...(times as number[]))
})
</script>

<template>
  <JobLine v-if="running.length === 1 || (running.length && !started.length)" :job="running[0]!" :name="name" @cancel="running.forEach((job) => $emit('cancel', job))" />
  <div v-else-if="running.length" class="bring-in" data-state="running">
    <span class="stage">{{ doing }}</span>
    <el-progress :percentage="Math.round(progress * 100)" :stroke-width="6" :aria-label="`${name}: ${doing}`" />
    <span class="quiet left">{{ timeLeft(left) }}</span>
    <el-button text size="small" :aria-label="`Cancel: ${name}`" @click="running.forEach((job) => $emit('cancel', job))">Cancel</el-button>
  </div>
  <template v-else>
    <JobLine v-for="job in stopped.slice(0, 1)" :key="job.id" :job="job" :name="name" @retry="$emit('retry')" />
  </template>
</template>

<style scoped>
.bring-in { display: flex; gap: 10px; align-items: center; min-width: 0; font-size: 13px; }
.stage { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.el-progress { flex: 1; min-width: 60px; }
.left { white-space: nowrap; }
</style>
