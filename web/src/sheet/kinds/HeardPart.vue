<script setup lang="ts">
import SoundWave from '@/player/SoundWave.vue'
import type { Source } from '@/player/usePlayer'
import StripSlider from '@/shared/StripSlider.vue'

/** Which part of a sound is heard, over its waveform: slid to where it begins, kept once that is let go. */
defineProps<{ source: Source; start: number; lasts: number /* seconds */; share: (seconds: number) => string }>()
defineEmits<{ slid: [seconds: number]; dropped: [] }>()
</script>

<template>
  <span class="label">Part of it that is heard</span>
  <div class="strip" data-test="wave" @change="$emit('dropped')">
    <SoundWave :recording="source.id" :ready="source.playable" />
    <i :style="{ left: share(start), width: share(lasts) }"></i>
    <StripSlider :time="start" :length="source.duration" label="Starts at (s)" @seek="$emit('slid', $event)" />
  </div>
</template>

<style scoped>
.label { color: var(--ink-2); font-size: 13px; }
.strip { position: relative; flex: none; width: 100%; height: 44px; border: 1px solid var(--rule); }
i { position: absolute; top: 0; bottom: 0; box-sizing: border-box; min-width: 4px; border: 3px solid var(--pencil); background: rgb(43 95 199 / 0.15); pointer-events: none; }
.strip:focus-within { outline: 2px solid var(--pencil); outline-offset: 2px; }
</style>
