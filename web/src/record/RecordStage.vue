<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import { computed, onMounted, ref, watch } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock, moment, size as inBytes } from '@/shared/format'
import { sureToDelete } from '@/shared/ask'
import { useChoices } from '@/shared/useChoices'
import DevicePanel from './DevicePanel.vue'
import Prompter from './Prompter.vue'
import PrompterPanel from './PrompterPanel.vue'
import ShapeGuides from './ShapeGuides.vue'
import { useFollowing } from './useFollowing'
import { useRecorder } from './useRecorder'
import type { Script } from './useScripts'
import { useStreams, useWishes } from './useStreams'

/** Camera and microphone, tried and recorded; with a script, it runs above the picture. */
const props = defineProps<{ script: Script | null; line: number }>()
const emit = defineEmits<{ kept: [recording: string]; busy: [is: boolean]; pace: [pace: number] }>()

const choices = useChoices()
const capture = computed(() => choices.value?.capture ?? null)
const wanted = useWishes(capture)
const { wishes } = wanted
const gone = ref('')
const recorder = useRecorder((recording) => emit('kept', recording))
const { stage, left, seconds, trouble, missing, only, busy, running } = recorder
const streams = useStreams(capture, wanted, unplugged)
const { stream, problem, opening, soundTold, pictureTold, hasPicture, size } = streams
const film = ref<HTMLVideoElement | null>(null)
streams.watchFilm(film)
watch([stream, film], () => { if (film.value && film.value.srcObject !== stream.value) film.value.srcObject = stream.value })
watch(busy, (is) => emit('busy', is))

async function open() {
  gone.value = ''
  await streams.open()
}
onMounted(() => void streams.look())

function unplugged(told: string) {
  gone.value = busy.value ? `${told} What was recorded up to then is kept.` : told
  void recorder.stop()
  streams.close()
}

// How much more there is room for.
const { data: room } = useQuery({ queryKey: ['room'], queryFn: () => got(api.GET('/api/scripts/room')), refetchInterval: 20_000 })
const pictureBits = computed(() => Math.round((size.value?.width || (wanted.height.value * 16) / 9) * (size.value?.height || wanted.height.value) * (size.value?.rate || wanted.rate.value) * (capture.value?.picture_bits ?? 0)))
const secondsLeft = computed(() => {
  if (!room.value || !capture.value) return null
  return (8 * (room.value.bytes - missing.value)) / ((hasPicture.value ? pictureBits.value : 0) + capture.value.sound_bits)
})
const short = computed(() => secondsLeft.value !== null && secondsLeft.value < (capture.value?.limits.short ?? 0))

// The prompter.
const prompter = ref<InstanceType<typeof Prompter> | null>(null)
const habits = useLocalStorage('hovvet-prompting', { stops: false, mirrored: false, follows: false }, { mergeDefaults: true })
const pace = ref(props.script?.pace ?? 0)
watch(() => props.script?.pace, (now) => { if (now) pace.value = now })
const word = ref(0)
const holds = ref(false)
const following = useFollowing(() => props.script?.id ?? '', () => word.value, () => performance.now() / 1000, streams.listen)
const heard = computed(() => (habits.value.follows ? following.heard.value : null))
const runs = computed(() => running.value && !holds.value)
watch(runs, (is) => (is && habits.value.follows ? following.start() : following.stop()))
watch(() => habits.value.follows, (is) => (is && runs.value ? following.start() : following.stop()))
const PACE = 10 // words a minute, by one press
function faster(by: number) {
  if (!choices.value) return
  const [least, most] = choices.value.paces
  pace.value = Math.min(Math.max(pace.value + by, least), most)
  emit('pace', pace.value)
}
function atTheEnd() {
  if (habits.value.stops) void recorder.stop()
}

async function begin() {
  if (!stream.value) await open()
  if (!stream.value || !capture.value) return
  gone.value = ''
  holds.value = false
  await recorder.begin({
    stream: stream.value,
    name: props.script ? props.script.title : `Recording, ${moment(new Date().toISOString()).replace(':', '.')}`,
    script: props.script?.id ?? '',
    line: props.line,
    countdown: capture.value.countdown,
    pictureBits: pictureBits.value,
    soundBits: capture.value.sound_bits,
  })
}
/** What the big button does now. */
async function press() {
  if (!stream.value && stage.value === 'ready') await open()
  else if (stage.value === 'ready') await begin()
  else if (stage.value === 'recording') recorder.pause()
  else if (stage.value === 'paused') recorder.goOn()
}
async function forget() {
  if (await sureToDelete('Throw this away?', 'What was just recorded is gone then.', 'Throw it away')) await recorder.forget()
}

useCommands(() => [
  { id: 'record', label: 'Record, pause, go on', keys: ['Shift+R'], run: () => void press() },
  { id: 'record-stop', label: 'Stop recording', keys: ['Shift+X'], run: () => void recorder.stop(), enabled: () => busy.value },
  ...(props.script ? [
    { id: 'prompter-hold', label: 'Hold the prompter, or let it go on', keys: ['Space'], run: () => (holds.value = !holds.value) },
    { id: 'prompter-faster', label: 'Prompter faster', keys: ['Right'], run: () => faster(PACE) },
    { id: 'prompter-slower', label: 'Prompter slower', keys: ['Left'], run: () => faster(-PACE) },
    { id: 'prompter-back', label: 'Prompter back a line', keys: ['Up'], run: () => prompter.value?.line(-1) },
    { id: 'prompter-on', label: 'Prompter on a line', keys: ['Down'], run: () => prompter.value?.line(1) },
    { id: 'prompter-follow', label: 'Follow my voice', keys: ['F'], run: () => (habits.value.follows = !habits.value.follows) },
  ] : []),
])
const told = computed(() => gone.value || problem.value)
const hint = computed(() => {
  if (!heard.value || !runs.value) return ''
  return heard.value.how === 'waits' ? 'Waits for you' : heard.value.how === 'sure' ? 'Follows you' : 'Goes by the pace'
})
</script>

<template>
  <div class="stage" data-test="record" :data-stage="stage">
    <section class="scene" aria-label="Picture">
      <Prompter v-if="script" ref="prompter" :script="script" :pace="pace" :runs="runs" :mirrored="habits.mirrored" :from="line" :heard="heard" class="script" @end="atTheEnd" @word="word = $event" />
      <div class="picture" :class="{ alone: !script }">
        <div v-if="stream && hasPicture" class="film" :style="{ aspectRatio: size?.width ? `${size.width} / ${size.height}` : '16 / 9' }">
          <video ref="film" muted autoplay playsinline :class="{ mirrored: wishes.mirrored && wishes.shows === 'camera' }"></video>
          <ShapeGuides :shown="wishes.guides" :ratio="size?.width ? size.width / size.height : 16 / 9" />
        </div>
        <p v-else-if="stream" class="only">Sound alone</p>
        <div v-else class="only">
          <p>Nothing is recorded yet. First see and hear whether all is well.</p>
          <el-button type="primary" :loading="opening || !capture" @click="open">{{ wishes.shows === 'sound' ? 'Open the microphone' : wishes.shows === 'camera' ? 'Open camera and microphone' : 'Choose the screen' }}</el-button>
        </div>
        <p v-if="stage === 'counting'" class="count" role="status" aria-live="assertive">{{ left }}</p>
      </div>
      <div class="told" aria-live="polite">
        <p v-if="told" class="alarm" role="alert">{{ told }}</p>
        <p v-for="each in [soundTold, pictureTold].filter(Boolean)" :key="each" class="warn">{{ each }}</p>
        <p v-if="short" class="warn">There is room for {{ clock(Math.max(secondsLeft ?? 0, 0), false) }} more. Free some space on the server first.</p>
        <p v-if="only" class="warn">This browser keeps nothing: its disk is full, or it may not. Leave this page open until all has been sent.</p>
        <p v-if="trouble" class="alarm" role="alert">{{ trouble }} <button class="link" @click="recorder.sendAgain">Send again</button></p>
      </div>
      <div class="bar">
        <template v-if="stage === 'ready'">
          <el-button type="primary" size="large" :disabled="!stream" @click="begin">Record <kbd>Shift+R</kbd></el-button>
          <el-button v-if="stream" text @click="streams.close">Close the {{ hasPicture ? 'camera' : 'microphone' }}</el-button>
          <span v-if="secondsLeft !== null && !short" class="quiet">Room for {{ secondsLeft > 86_400 ? 'more than a day' : clock(secondsLeft, false) }}</span>
        </template>
        <template v-else-if="stage === 'sending'">
          <span class="quiet" role="status">Sending the last of it…{{ missing > 1e5 ? ` ${inBytes(missing)} left` : '' }}</span>
        </template>
        <template v-else-if="stage !== 'counting'">
          <span class="time now" role="status"><b :class="stage">●</b> {{ stage === 'paused' ? 'Paused at' : 'Recording' }} {{ clock(seconds) }}</span>
          <el-button v-if="stage === 'recording'" size="large" @click="recorder.pause">Pause <kbd>Shift+R</kbd></el-button>
          <el-button v-else size="large" @click="recorder.goOn">Go on <kbd>Shift+R</kbd></el-button>
          <el-button type="primary" size="large" @click="recorder.stop">Stop <kbd>Shift+X</kbd></el-button>
          <el-button text @click="forget">Throw it away…</el-button>
          <span v-if="hint" class="quiet">{{ hint }}</span>
        </template>
        <el-button v-else @click="recorder.stop">Do not begin</el-button>
      </div>
    </section>
    <aside aria-label="Devices">
      <DevicePanel v-if="capture" :capture="capture" :streams="streams" :wanted="wanted" :locked="busy" @open="stream && open()" />
      <PrompterPanel v-if="script && prompter && choices" v-model="habits" :looks="prompter.looks" :pace="pace" :paces="choices.paces" @pace="faster($event - pace)" />
    </aside>
  </div>
</template>

<style scoped>
.stage { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 300px; min-height: 0; }
.scene { display: flex; flex-direction: column; min-width: 0; min-height: 0; background: #14171c; }
.script { flex: 1 1 45%; min-height: 0; }
.picture { position: relative; display: grid; flex: 1 1 55%; grid-template: minmax(0, 1fr) / minmax(0, 1fr); min-height: 0; overflow: hidden; place-items: center; }
.film { position: relative; max-width: 100%; height: 100%; }
.film video { display: block; width: 100%; height: 100%; object-fit: contain; }
.mirrored { transform: scaleX(-1); }
.only { color: #e4e6ea; text-align: center; }
.count { position: absolute; inset: 0; display: grid; margin: 0; place-items: center; background: rgb(20 23 28 / 55%); color: #fff; font-size: 110px; font-weight: 600; }
.told { background: var(--paper); }
.told p { margin: 0; padding: 6px 20px; font-size: 14px; }
.warn { color: var(--rust-text); }
.bar { display: flex; flex-wrap: wrap; gap: 8px 14px; align-items: center; min-height: 62px; padding: 8px 20px; border-top: 1px solid var(--rule); background: var(--paper); }
.bar .el-button { margin: 0; }
kbd { margin-left: 8px; font: 11px var(--mono); opacity: 0.85; }
.now b { color: var(--ink-2); }
.now b.recording { color: var(--rust); }
aside { display: flex; flex-direction: column; gap: 20px; padding: 16px 20px; border-left: 1px solid var(--rule); overflow-y: auto; }
@media (width < 900px) { .stage { display: block; overflow-y: auto; } .scene { height: 70vh; } aside { border-left: 0; } }
</style>
