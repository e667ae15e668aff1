<script setup lang="ts">
import type { Clip } from '@/recordings/useClips'
import { clock } from '@/shared/format'

/** The clips that were made of a recording. */
defineProps<{ clips: Clip[] }>()
</script>

<template>
  <p v-if="!clips.length" class="quiet">Drag over a passage worth sharing, then press <b>Make clip</b>.</p>
  <ul v-else>
    <li v-for="clip in clips" :key="clip.id">
      <RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink>
      <span class="time quiet">{{ clock(clip.stretches[0]?.start ?? 0, false) }}</span>
    </li>
  </ul>
</template>

<style scoped>
p { margin: 4px 0 10px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; gap: 8px; justify-content: space-between; padding: 3px 0; font-size: 14px; }
</style>
