<script setup lang="ts">
import { computed, inject, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import { PLAYER } from '@/player/key'
import { clock } from '@/shared/format'
import BrokenOffLines from '@/capture/BrokenOffLines.vue'
import type { Content, Doc } from '@/document/useDocument'
import { ASK } from '@/sheet/kinds/asked'
import { useVoiceRecorder } from './useVoiceRecorder'

type VoiceOver = Extract<Content, { kind: 'voice_over' }>

/** Recording a voice over the clip, take after take; the one that is chosen is heard. */
const props = defineProps<{ content: VoiceOver; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()

const player = inject(PLAYER)!
const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
const takes = computed(() => props.content.takes ?? [])
const titled = (media: string, n: number) => {
  const source = props.doc.sources.find((each) => each.id === media)
  return `Take ${n + 1}${source?.playable ? `, ${clock(source.duration)}` : ', being prepared…'}`
}
const set = (part: Partial<VoiceOver>) => emit('change', { ...props.content, ...part })

const ask = inject(ASK)!
/** Also where these settings were closed meanwhile. */
const asked = (take: { media: string; start: number }) =>
  ask({ ask: 'lay', content: { ...props.content, ...take, end: 0, takes: [...takes.value, take] }, layer: props.layer, named: null, edition: null, first: null, last: null })
const recorder = useVoiceRecorder(
  player,
  () => `Voice-over ${takes.value.length + 1}, ${props.doc.title}.wav`,
  () => bar.value?.start ?? 0,
  (take) => void asked(take),
)
const { stage, problem, trouble, devices, device, audible, level, tooLoud, nothing, left, seconds, delay } = recorder
watch(device, (id, before) => { if (stage.value === 'ready' && before && id !== before) void recorder.open() })

const FLOOR = 60 // dB under the loudest that the level shows
const shown = computed(() => Math.max(0, 1 + (20 * Math.log10(Math.max(level.value, 1e-6))) / FLOOR))
const told = computed(() => {
  if (tooLoud.value) return 'Too loud: it is distorted. Turn the microphone down, or step back.'
  if (nothing.value) return 'We hear nothing. Speak; if this stays, choose another microphone, or see whether it is muted.'
  return ''
})
useCommands(() => [
  { id: 'voice-record', label: 'Record a voice-over, pause it, go on', keys: ['Shift+R'], run: () => void press() },
  { id: 'voice-stop', label: 'Stop recording the voice-over', keys: ['Shift+X'], run: () => void recorder.stop() },
])
/** What the big button does now. */
async function press() {
  if (stage.value === 'off') await recorder.open()
  else if (stage.value === 'ready') await recorder.begin()
  else if (stage.value === 'recording') recorder.pause()
  else if (stage.value === 'paused') await recorder.goOn()
}
</script>

<template>
  <div class="recorder" data-test="recorder" :data-stage="stage">
    <BrokenOffLines :looks="stage === 'off'" :of="(each) => each.name.endsWith('.wav')" @kept="(media) => asked({ media, start: 0 })" />
    <template v-if="stage === 'off'">
      <el-button type="primary" :disabled="!player.ready.value" @click="recorder.open">{{ takes.length ? 'Record another take…' : 'Record…' }}</el-button>
      <p class="quiet">Your voice is recorded while the clip plays from these words on. Nothing is recorded before you press again.</p>
    </template>
    <template v-else>
      <el-select v-if="stage === 'ready'" v-model="device" size="small" aria-label="Microphone">
        <el-option v-for="each in devices" :key="each.id" :value="each.id" :label="each.name" />
      </el-select>
      <div class="level" role="meter" aria-label="Level of the microphone" :aria-valuenow="Math.round(shown * 100)"><i :class="{ loud: tooLoud }" :style="{ width: `${shown * 100}%` }"></i></div>
      <p v-if="told" class="alarm" role="status">{{ told }}</p>
      <template v-if="stage === 'ready'">
        <el-checkbox v-model="audible" size="small" label="Hear the clip meanwhile (wear headphones)" />
        <span class="row">
          <el-button type="primary" @click="recorder.begin">Record (Shift+R)</el-button>
          <el-button text @click="recorder.close">Close the microphone</el-button>
        </span>
        <p class="quiet">{{ delay === null ? 'How late this device is was not measured yet.' : `This device is ${Math.round(delay * 1000)} ms late; that is taken off.` }}
          <button class="link" @click="recorder.measure">Measure it</button> with the microphone at the loudspeaker.</p>
      </template>
      <p v-else-if="stage === 'measuring'" class="quiet" role="status">Listening for clicks…</p>
      <p v-else-if="stage === 'counting'" class="count" role="status" aria-live="assertive">{{ left }}</p>
      <p v-else-if="stage === 'sending'" class="quiet" role="status">Sending the last of it…</p>
      <template v-else>
        <p class="time now" role="status"><b :class="stage">●</b> {{ stage === 'paused' ? 'Paused at' : 'Recording' }} {{ clock(seconds) }}</p>
        <span class="row">
          <el-button v-if="stage === 'recording'" @click="recorder.pause">Pause</el-button>
          <el-button v-else @click="recorder.goOn">Go on</el-button>
          <el-button type="primary" @click="recorder.stop">Stop (Shift+X)</el-button>
          <el-button text @click="recorder.forget">Throw it away</el-button>
        </span>
      </template>
    </template>
    <p v-if="problem" class="alarm" role="alert">{{ problem }}</p>
    <p v-if="trouble" class="alarm" role="alert">{{ trouble }} <button class="link" @click="recorder.sendAgain">Send again</button></p>
    <el-radio-group v-if="takes.length" :model-value="content.media" size="small" aria-label="Take" class="takes" @change="set({ ...takes.find((each) => each.media === $event), end: 0 })">
      <el-radio v-for="(each, n) in takes" :key="each.media" :value="each.media">{{ titled(each.media, n) }}</el-radio>
    </el-radio-group>
  </div>
</template>

<style scoped>
.recorder { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; font-size: 13px; }
p { margin: 0; }
.row { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.row .el-button { margin: 0; }
.level { width: 100%; height: 10px; border: 1px solid var(--rule); border-radius: 5px; overflow: hidden; }
.level i { display: block; height: 100%; background: var(--pencil); }
.level i.loud { background: var(--rust); }
.count { align-self: center; font-size: 48px; font-weight: 600; line-height: 1; }
.now b { color: var(--ink-2); }
.now b.recording { color: var(--rust); }
.takes { display: flex; flex-direction: column; align-items: flex-start; }
</style>
