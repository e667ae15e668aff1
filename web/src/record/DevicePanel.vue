<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useOutlets } from '@/document/useOutlets'
import type { useStreams, useWishes } from './useStreams'

/** What is recorded with: chosen, and tried. */
const props = defineProps<{ capture: Schemas['CaptureChoices']; streams: ReturnType<typeof useStreams>; wanted: ReturnType<typeof useWishes>; locked: boolean }>()
const emit = defineEmits<{ open: [] }>()
const { wishes, height, rate } = props.wanted
const { found, level, stream, size } = props.streams
const { outlets } = useOutlets()

const FLOOR = 60 // dB under the loudest that the level shows
const shown = computed(() => Math.max(0, 1 + (20 * Math.log10(Math.max(level.value, 1e-6))) / FLOOR))

const testing = ref<'' | 'speak' | 'hear'>('')
const listener = ref<HTMLAudioElement | null>(null)
/** Some seconds of the microphone, then heard from the loudspeaker. */
async function test() {
  const sound = stream.value?.getAudioTracks() ?? []
  if (!sound.length || testing.value) return
  const parts: Blob[] = []
  const recorder = new MediaRecorder(new MediaStream(sound))
  recorder.addEventListener('dataavailable', ({ data }) => parts.push(data))
  const over = new Promise((done) => recorder.addEventListener('stop', done))
  recorder.start()
  testing.value = 'speak'
  await new Promise((done) => setTimeout(done, props.capture.test_seconds * 1000))
  recorder.stop()
  await over
  testing.value = 'hear'
  const player = listener.value!
  player.src = URL.createObjectURL(new Blob(parts))
  if (wishes.value.speaker && found.value.speakers.some((each) => each.id === wishes.value.speaker)) await player.setSinkId?.(wishes.value.speaker)
  await player.play().catch(() => {})
  if (player.paused) heard()
}
function heard() {
  if (listener.value) URL.revokeObjectURL(listener.value.src)
  testing.value = ''
}
</script>

<template>
  <div class="devices" data-test="devices">
    <label>Record
      <select v-model="wishes.shows" :disabled="locked" aria-label="What is recorded" @change="emit('open')">
        <option v-for="(name, key) in capture.shows" :key="key" :value="key">{{ name }}</option>
      </select>
    </label>
    <label v-if="wishes.shows === 'camera' || wishes.shows === 'screen and camera'">Camera
      <select v-model="wishes.camera" :disabled="locked" aria-label="Camera" @change="emit('open')">
        <option value="">The usual one</option>
        <option v-for="each in found.cameras" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
    </label>
    <label>Microphone
      <select v-model="wishes.microphone" :disabled="locked" aria-label="Microphone" @change="emit('open')">
        <option value="">The usual one</option>
        <option v-for="each in found.microphones" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
    </label>
    <div class="level" role="meter" aria-label="Level of the microphone" :aria-valuenow="Math.round(shown * 100)" aria-valuemin="0" aria-valuemax="100"><i :style="{ width: `${shown * 100}%` }"></i></div>
    <div class="row">
      <el-button size="small" :disabled="!stream || !!testing || locked" @click="test">{{ testing === 'speak' ? 'Speak now…' : testing === 'hear' ? 'Listen…' : 'Speak, and hear yourself' }}</el-button>
      <select v-if="found.speakers.length > 1" v-model="wishes.speaker" aria-label="Loudspeaker">
        <option value="">The usual loudspeaker</option>
        <option v-for="each in found.speakers" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
    </div>
    <audio ref="listener" hidden @ended="heard" @error="heard"></audio>
    <template v-if="wishes.shows !== 'sound'">
      <div class="row">
        <label>Lines
          <select v-model.number="height" :disabled="locked" aria-label="Lines" @change="emit('open')"><option v-for="each in capture.heights" :key="each" :value="each">{{ each }}</option></select>
        </label>
        <label>Frames a second
          <select v-model.number="rate" :disabled="locked" aria-label="Frames a second" @change="emit('open')"><option v-for="each in capture.rates" :key="each" :value="each">{{ each }}</option></select>
        </label>
      </div>
      <p v-if="size" class="quiet">It gives {{ size.width }} × {{ size.height }} at {{ Math.round(size.rate) }} a second.</p>
      <el-checkbox v-model="wishes.mirrored" size="small" label="See yourself as in a mirror" />
      <fieldset>
        <legend>Shapes over the picture</legend>
        <el-checkbox-group v-model="wishes.guides" size="small"><el-checkbox v-for="each in outlets" :key="each.key" :value="each.key" :label="each.name" /></el-checkbox-group>
      </fieldset>
    </template>
  </div>
</template>

<style scoped>
.devices { display: flex; flex-direction: column; gap: 10px; font-size: 14px; }
label:not(.el-checkbox) { display: flex; flex-direction: column; gap: 2px; min-width: 0; color: var(--ink-2); font-size: 13px; }
select { min-width: 0; max-width: 100%; padding: 5px 6px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 14px; }
.row { display: flex; flex-wrap: wrap; gap: 10px; align-items: end; }
.level { height: 10px; border: 1px solid var(--rule); border-radius: 5px; overflow: hidden; }
.level i { display: block; height: 100%; background: var(--pencil); }
p { margin: 0; font-size: 13px; }
fieldset { margin: 0; padding: 0; border: 0; }
legend { padding: 0; color: var(--ink-2); font-size: 13px; }
.el-checkbox-group { display: flex; flex-direction: column; }
</style>
