<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, got } from '@/api/client'
import type { Job } from '@/shared/jobs'
import JobLine from '@/shared/JobLine.vue'
import { tellError } from '@/shared/tell'
import type { Choices } from '@/shared/useChoices'
import type { Recording } from '@/recordings/recording'

/** How a recording sounds: how loud it was recorded, and its speech made clearer. */
const props = defineProps<{ recording: Recording; choices: Choices }>()
const emit = defineEmits<{ changed: []; cancel: [job: Job] }>()

type Strength = Recording['clearer']
const chosen = ref<Strength>(props.recording.clearer)
watch(() => props.recording.clearer, (now) => (chosen.value = now))
const job = computed(() => props.recording.jobs.find((each) => each.kind === 'clear' && each.state !== 'done'))
const loudness = computed(() => props.recording.media?.lufs)

async function set(strength: Strength) {
  chosen.value = strength
  try {
    await got(api.PATCH('/api/recordings/{recording_id}', { params: { path: { recording_id: props.recording.id } }, body: { version: props.recording.version, clearer: strength } }))
  } catch (error) {
    chosen.value = props.recording.clearer
    tellError(error)
  }
  emit('changed')
}
</script>

<template>
  <div class="sound">
    <p v-if="loudness != null" class="quiet">Recorded at <b class="time">{{ loudness.toFixed(1) }} LUFS</b>. Clips are brought to the loudness of their outlet.</p>
    <h2>Clearer speech</h2>
    <el-radio-group :model-value="chosen" size="small" aria-label="Clearer speech" @change="set($event as Strength)">
      <el-radio-button v-for="each in choices.strengths" :key="each" :value="each">{{ each.charAt(0).toUpperCase() + each.slice(1) }}</el-radio-button>
    </el-radio-group>
    <JobLine v-if="job" :job="job" name="Clearer speech" @cancel="$emit('cancel', job)" @retry="set(chosen)" />
    <p class="quiet">Noise, hum and rumble around the speech are taken down, echo a little, and clipping is mended. Play a few seconds, then choose Off and play them again: both are equally loud. A clip can have another wish: Add, Clearer speech.</p>
  </div>
</template>

<style scoped>
.sound { display: flex; flex-direction: column; gap: 10px; align-items: flex-start; padding-top: 6px; }
h2 { margin: 4px 0 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
</style>
