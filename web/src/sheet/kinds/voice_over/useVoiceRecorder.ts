import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, onBeforeUnmount, ref } from 'vue'
import { Capture } from '@/capture/capture'
import { click, CLICKING, clickTimes, delayOf } from '@/capture/delay'
import { deviceProblem, devices as allDevices } from '@/capture/devices'
import { Microphone, type Heard } from '@/capture/microphone'
import { SendWhile } from '@/capture/sendWhile'
import { SoundParts, wavHead } from '@/capture/wav'
import { useSession } from '@/account/session'
import type { usePlayer } from '@/player/usePlayer'

const COUNT = 3 // seconds that are counted down, and recorded as well: who begins early is heard
const SILENT = 0.001, LOUD = 0.99 // samples below which nothing is heard, and above which it is too loud
const WAITS = 4 // seconds of nothing after which that is told
const FALLS = 0.9 // of the level shown, from one block to the next

export type Stage = 'off' | 'ready' | 'counting' | 'recording' | 'paused' | 'sending' | 'measuring'

/** What a take comes to: the recording that the server made of it, and the second of it that belongs to where it was begun. */
export interface Taken { media: string; start: number }

/** Recording a voice over a clip that plays: `from` is where in the clip, in seconds of the output. */
export function useVoiceRecorder(player: ReturnType<typeof usePlayer>, name: () => string, from: () => number, kept: (take: Taken) => void) {
  const stage = ref<Stage>('off')
  const problem = ref('') // in words that help
  const trouble = ref('') // of sending it
  const devices = ref<{ id: string; name: string }[]>([])
  const device = useLocalStorage('hovvet-microphone', '')
  const audible = useLocalStorage('hovvet-voice-over-audible', true) // whether the clip is heard meanwhile
  const delays = useLocalStorage<Record<string, number>>('hovvet-delays', {}) // seconds, by device, as they were measured
  const level = ref(0) // of what is heard, 0 to 1
  const tooLoud = ref(false)
  const nothing = ref(false)
  const left = ref(0) // seconds to count
  const seconds = ref(0) // recorded so far

  let microphone: Microphone | null = null
  let context: AudioContext | null = null
  let capture = new Capture()
  let sending: SendWhile | null = null
  let parts: SoundParts | null = null
  const session = useSession()
  let measured: Heard[] | null = null
  let quietSince = 0
  let placed: number | null = null // where on the clock the clip's `from` was heard

  const busy = computed(() => !['off', 'ready'].includes(stage.value))
  const ownDelay = () => delays.value[microphone?.device ?? '']
  const delay = computed(() => (stage.value === 'off' ? null : ownDelay() ?? null))

  function hear(part: Heard) {
    let peak = 0
    for (const value of part.heard) peak = Math.max(peak, Math.abs(value))
    level.value = Math.max(peak, level.value * FALLS)
    if (peak >= LOUD) tooLoud.value = true
    const now = part.at / context!.sampleRate
    if (peak > SILENT) quietSince = now
    nothing.value = now - quietSince > WAITS
    measured?.push(part)
    const own = sending && capture.take(part)
    if (own) {
      parts!.add(own)
      seconds.value = capture.count / context!.sampleRate
    }
  }

  /** Open the microphone; its level is shown from then on. */
  async function open() {
    microphone?.close()
    problem.value = ''
    tooLoud.value = nothing.value = false
    context = player.clock()?.context ?? null
    if (!context) return
    try {
      const wanted = devices.value.length && !devices.value.some((each) => each.id === device.value) ? '' : device.value
      microphone = await Microphone.open(context, wanted, hear, () => void unplugged())
      quietSince = context.currentTime
      devices.value = (await allDevices()).microphones
      device.value = microphone.device
      stage.value = 'ready'
    } catch (error) {
      problem.value = error instanceof DOMException ? deviceProblem(error) : (error as Error).message
      stage.value = 'off'
    }
  }

  async function unplugged() {
    if (stage.value === 'recording' || stage.value === 'counting' || stage.value === 'paused') await stop()
    problem.value = 'The microphone was unplugged. What was recorded up to then is kept.'
    close()
  }

  const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

  /** Count down, then play the clip from where this belongs, and record. */
  async function begin() {
    if (!context || stage.value !== 'ready') return
    player.pause()
    player.speed.value = 1
    tooLoud.value = false
    trouble.value = ''
    await player.goTo(from())
    capture = new Capture()
    seconds.value = 0
    placed = null
    stage.value = 'counting'
    const rate = context.sampleRate
    const made = await SendWhile.begin({ name: name(), script: '', line: 0, by: session.user ?? '' }, (told) => (trouble.value = told))
    made.add(new Blob([wavHead(rate)]))
    parts = new SoundParts(rate, (part) => made.add(part))
    sending = made
    capture.begin(context.currentTime * context.sampleRate)
    for (left.value = COUNT; left.value > 0; left.value--) {
      await wait(1000)
      if (stage.value !== 'counting') return
    }
    stage.value = 'recording'
    await playOn()
    placed ??= (player.clock()?.began ?? 0) + from()
  }

  /** Play the clip; the place on the clock at which it goes on. */
  async function playOn(): Promise<number> {
    player.mute(!audible.value)
    const at = player.time.value
    await player.play()
    return (player.clock()?.began ?? context!.currentTime - at) + at
  }

  function pause() {
    const { began } = player.clock() ?? {}
    const now = context!.currentTime
    player.pause()
    capture.stop((began == null ? now : began + player.time.value) * context!.sampleRate)
    stage.value = 'paused'
  }

  async function goOn() {
    stage.value = 'recording'
    capture.begin((await playOn()) * context!.sampleRate)
  }

  /** Stop: what is left is sent, and then it is a take. */
  async function stop() {
    const was = stage.value
    if (!sending || !context || !['counting', 'recording', 'paused'].includes(was)) return
    const begun = placed
    if (was !== 'paused') capture.stop(context.currentTime * context.sampleRate)
    stage.value = 'sending'
    player.pause()
    player.mute(false)
    await wait(60) // what was heard until now is on its way from the audio thread
    const first = (capture.first ?? 0) / context.sampleRate
    const late = ownDelay() ?? context.outputLatency + context.baseLatency + (microphone?.latency ?? 0)
    parts!.flush()
    const media = await sending.finish()
    sending = null
    kept({ media, start: Math.max(begun === null ? 0 : begun + late - first, 0) })
    stage.value = microphone ? 'ready' : 'off'
  }

  /** Throw away what is being recorded. */
  async function forget() {
    stage.value = 'ready'
    player.pause()
    player.mute(false)
    await sending?.forget()
    sending = null
  }

  /** Play clicks and hear when they come back: how late this device is. */
  async function measure() {
    if (!context || stage.value !== 'ready') return
    stage.value = 'measuring'
    problem.value = ''
    measured = []
    const rate = context.sampleRate
    const begins = context.currentTime + 0.1
    const buffer = context.createBuffer(1, click(rate).length, rate)
    buffer.copyToChannel(click(rate) as Float32Array<ArrayBuffer>, 0)
    for (const at of clickTimes) {
      const source = new AudioBufferSourceNode(context, { buffer })
      source.connect(context.destination)
      source.start(begins + at)
    }
    await wait((CLICKING + 0.2) * 1000)
    const parts = measured
    measured = null
    const whole = new Float32Array(Math.ceil(CLICKING * rate))
    for (const { at, heard } of parts) {
      const place = Math.round(at - begins * rate)
      heard.forEach((value, n) => { if (place + n >= 0 && place + n < whole.length) whole[place + n] = value })
    }
    const found = delayOf(whole, rate)
    if (found === null) problem.value = 'The clicks were not heard. Turn the loudspeaker up and hold the microphone to it, then measure again.'
    else if (microphone) delays.value = { ...delays.value, [microphone.device]: found }
    stage.value = 'ready'
  }

  function close() {
    microphone?.close()
    microphone = null
    level.value = 0
    if (stage.value === 'ready') stage.value = 'off'
  }

  useEventListener(window, 'beforeunload', (event: BeforeUnloadEvent) => { if (busy.value) event.preventDefault() })
  onBeforeUnmount(() => {
    void stop().finally(close)
  })

  return {
    stage, problem, trouble, devices, device, audible, level, tooLoud, nothing, left, seconds, busy, delay,
    open, begin, pause, goOn, stop, forget, measure, close, sendAgain: () => sending?.again(),
  }
}
