<script setup lang="ts">
import { size } from '@/shared/format'
import type { Sending } from './useUploads'

defineProps<{ entry: Sending }>()
defineEmits<{ pause: []; goOn: []; cancel: [] }>()
</script>

<template>
  <div class="upload">
    <b>{{ entry.name }}</b>
    <span v-if="entry.problem" class="alarm" role="alert">{{ entry.problem }}</span>
    <template v-else>
      <el-progress :percentage="entry.bytes ? Math.round((entry.sent / entry.bytes) * 100) : 0" :stroke-width="6" :aria-label="`Bringing in ${entry.name}`" />
      <span class="quiet">{{ size(entry.sent) }} of {{ size(entry.bytes) }}<template v-if="entry.speed">, {{ size(entry.speed) }}/s</template></span>
    </template>
    <el-button v-if="entry.state === 'sending'" text size="small" @click="$emit('pause')">Pause</el-button>
    <el-button v-else-if="entry.bytes" size="small" @click="$emit('goOn')">Resume</el-button>
    <el-button text size="small" @click="$emit('cancel')">{{ entry.problem ? 'Dismiss' : 'Cancel' }}</el-button>
  </div>
</template>

<style scoped>
.upload { display: flex; gap: 12px; align-items: center; padding: 10px 0; border-bottom: 1px solid var(--rule); font-size: 14px; }
.el-progress { flex: 1; }
</style>
