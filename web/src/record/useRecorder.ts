import { useEventListener } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, type Ref } from 'vue'
import { useSession } from '@/account/session'
import { SendWhile } from '@/capture/sendWhile'

export type Stage = 'ready' | 'counting' | 'recording' | 'paused' | 'sending'
/** What browsers write, the best for going on while it is recorded first. */
const KINDS = ['video/webm;codecs=vp8,opus', 'video/webm', 'video/mp4']
const SOUNDS = ['audio/webm;codecs=opus', 'audio/webm', 'audio/mp4']
const PART = 1000 // ms: as much is lost at most when a page is closed

export interface Wanted {
  stream: MediaStream
  name: string
  script: string
  line: number
  countdown: number
  pictureBits: number
  soundBits: number
}

/** Recording what is seen and heard, sent while it is recorded. `kept` is told what the server made of it. */
export function useRecorder(kept: (recording: string) => void) {
  const session = useSession()
  const stage = ref<Stage>('ready')
  const left = ref(0) // seconds to count
  const seconds = ref(0) // recorded
  const trouble = ref('') // of sending it
  const missing = ref(0) // bytes that are still to arrive
  const only = ref(false) // whether what has not arrived is held by this page alone
  let recorder: MediaRecorder | null = null
  let sending: SendWhile | null = null
  let clock = 0
  let since = 0

  const busy = computed(() => stage.value !== 'ready')
  const running: Ref<boolean> = computed(() => stage.value === 'recording')
  const wait = (ms: number) => new Promise((done) => setTimeout(done, ms))

  function tick() {
    const now = performance.now()
    if (stage.value === 'recording') seconds.value += (now - since) / 1000
    since = now
    missing.value = sending?.missing ?? 0
    only.value = sending?.only ?? false
  }

  /** Count down, then record. */
  async function begin(wanted: Wanted) {
    if (stage.value !== 'ready') return
    const picture = wanted.stream.getVideoTracks().length > 0
    const kind = (picture ? KINDS : SOUNDS).find((each) => MediaRecorder.isTypeSupported(each))
    trouble.value = ''
    seconds.value = 0
    stage.value = 'counting'
    for (left.value = wanted.countdown; left.value > 0; left.value--) {
      await wait(1000)
      if (stage.value !== 'counting') return
    }
    const ending = kind?.includes('mp4') ? (picture ? 'mp4' : 'm4a') : 'webm'
    const by = session.user ?? ''
    const now = await SendWhile.begin({ name: `${wanted.name}.${ending}`, script: wanted.script, line: wanted.line, by }, (told) => (trouble.value = told))
    if (stage.value !== 'counting') return void now.forget()
    sending = now
    recorder = new MediaRecorder(wanted.stream, { ...(kind ? { mimeType: kind } : {}), videoBitsPerSecond: wanted.pictureBits, audioBitsPerSecond: wanted.soundBits })
    recorder.addEventListener('dataavailable', ({ data }) => { if (data.size) now.add(data) })
    recorder.addEventListener('error', () => void stop())
    recorder.start(PART)
    since = performance.now()
    clock = window.setInterval(tick, 100)
    stage.value = 'recording'
  }

  function pause() {
    tick()
    recorder?.pause()
    recorder?.requestData()
    stage.value = 'paused'
  }

  function goOn() {
    since = performance.now()
    recorder?.resume()
    stage.value = 'recording'
  }

  /** Stop; what is left is sent, and then it is there. */
  async function stop() {
    if (stage.value === 'counting') {
      stage.value = 'ready'
      return
    }
    if (!recorder || !sending || !['recording', 'paused'].includes(stage.value)) return
    stage.value = 'sending'
    await ended(recorder)
    recorder = null
    const recording = await sending.finish()
    clear()
    if (recording) kept(recording)
  }

  /** Throw away what is being recorded. */
  async function forget() {
    if (recorder) await ended(recorder)
    recorder = null
    await sending?.forget()
    clear()
  }

  function clear() {
    window.clearInterval(clock)
    sending = null
    missing.value = 0
    only.value = false
    stage.value = 'ready'
  }

  useEventListener(window, 'beforeunload', (event: BeforeUnloadEvent) => { if (busy.value) event.preventDefault() })
  useEventListener(window, 'pagehide', () => recorder?.state === 'recording' && recorder.requestData())
  onBeforeUnmount(() => void stop())

  return { stage, left, seconds, trouble, missing, only, busy, running, begin, pause, goOn, stop, forget, sendAgain: () => sending?.again() }
}

function ended(recorder: MediaRecorder): Promise<void> {
  if (recorder.state === 'inactive') return Promise.resolve()
  return new Promise((done) => {
    recorder.addEventListener('stop', () => done(), { once: true })
    recorder.stop()
  })
}
