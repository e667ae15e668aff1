<script setup lang="ts">
import { clock } from '@/shared/format'

/** `edited` is the time in what is kept, where that is another than `time`. */
defineProps<{ time: number; length: number; playing: boolean; ready: boolean; speed?: number; edited?: number | null }>()
defineEmits<{ toggle: []; seek: [seconds: number]; speed: [rate: number] }>()

const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2]
</script>

<template>
  <div class="transport">
    <button class="play" :disabled="!ready" :aria-label="playing ? 'Pause' : 'Play'" :title="playing ? 'Pause (space)' : 'Play (space)'" @click="$emit('toggle')">
      <svg viewBox="0 0 16 16" width="14" height="14" aria-hidden="true">
        <path v-if="playing" d="M3 2h4v12H3zM9 2h4v12H9z" fill="currentColor" />
        <path v-else d="M3 1.5v13l11-6.5z" fill="currentColor" />
      </svg>
    </button>
    <input
      type="range" min="0" :max="length" step="0.01" :value="time" aria-label="Place in the recording"
      @input="$emit('seek', Number(($event.target as HTMLInputElement).value))"
    />
    <span class="time" data-test="clock">{{ clock(time) }} <span class="quiet">/ {{ clock(length, edited == null) }}</span></span>
    <span v-if="edited != null" class="time quiet" title="Time in what is kept">→ {{ clock(edited) }}</span>
    <select
      v-if="speed" :value="speed" class="speed" aria-label="Speed" title="Speed (J back, K pause, L play and faster)"
      @change="$emit('speed', Number(($event.target as HTMLSelectElement).value))"
    >
      <option v-for="rate in SPEEDS" :key="rate" :value="rate">{{ rate }}×</option>
    </select>
    <slot />
  </div>
</template>

<style scoped>
.transport { display: flex; flex: none; flex-wrap: wrap; gap: 4px 8px; align-items: center; }
.transport :deep(.el-button) { width: 30px; padding: 6px 8px; }
.play { display: grid; flex: none; place-items: center; width: 36px; height: 36px; border: 0; border-radius: 50%; background: var(--ink); color: var(--paper); cursor: pointer; }
.play:disabled { opacity: 0.4; cursor: default; }
input { flex: 1; min-width: 40px; accent-color: var(--pencil); }
.time { white-space: nowrap; }
.speed { width: 62px; padding: 2px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font: 13px var(--mono); }
</style>
