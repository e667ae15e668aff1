import { useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, shallowRef, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { listenTo, asItIs, type Heard } from '@/capture/microphone'
import { devices, deviceProblem, type Devices } from '@/capture/devices'
import { judgePicture, PICTURE_TOLD, SOUND_TOLD, SoundJudge } from './judging'
import { withCorner } from './corner'

export type Shows = 'camera' | 'sound' | 'screen' | 'screen and camera'
const LOOKS = 500 // ms between two looks at the picture
const SMALL = { width: 64, height: 36 } // of what is judged

/** What somebody chose to record with; the same the next time. */
export function useWishes(capture: Ref<Schemas['CaptureChoices'] | null>) {
  const kept = useLocalStorage('hovvet-record', { shows: 'camera' as Shows, camera: '', microphone: '', speaker: '', height: 0, rate: 0, mirrored: true, guides: [] as string[] }, { mergeDefaults: true })
  return {
    wishes: kept,
    height: computed({ get: () => kept.value.height || (capture.value?.height ?? 0), set: (height) => (kept.value.height = height) }),
    rate: computed({ get: () => kept.value.rate || (capture.value?.rate ?? 0), set: (rate) => (kept.value.rate = rate) }),
  }
}

/** What is seen and heard now, judged as it comes. `gone` is told when a device is unplugged or taken away. */
export function useStreams(capture: Ref<Schemas['CaptureChoices'] | null>, wanted: ReturnType<typeof useWishes>, gone: (told: string) => void) {
  const { wishes, height, rate } = wanted
  const found = ref<Devices>({ cameras: [], microphones: [], speakers: [] })
  const stream = shallowRef<MediaStream | null>(null)
  const problem = ref('')
  const opening = ref(false)
  const level = ref(0)
  const soundTold = ref('')
  const pictureTold = ref('')
  const size = ref<{ width: number; height: number; rate: number } | null>(null) // as the camera has it
  const listeners = new Set<(part: Heard) => void>()
  let context: AudioContext | null = null
  const closes: (() => void)[] = []
  let judge: SoundJudge | null = null

  const hasPicture = computed(() => wishes.value.shows !== 'sound')

  function close() {
    for (const each of closes.splice(0)) each()
    stream.value = null
    level.value = 0
    soundTold.value = pictureTold.value = ''
  }

  const known = (list: { id: string }[], id: string) => (list.length && !list.some((each) => each.id === id) ? '' : id)

  /** Open what is chosen; what was open is closed. */
  async function open() {
    close()
    problem.value = ''
    if (!navigator.mediaDevices) {
      problem.value = 'Camera and microphone can be used only where this page comes over a safe connection (https).'
      return
    }
    opening.value = true
    let asked: 'camera' | 'microphone' | 'screen' = 'microphone'
    const tracks: MediaStreamTrack[] = []
    try {
      const sound = await navigator.mediaDevices.getUserMedia({ audio: asItIs(known(found.value.microphones, wishes.value.microphone)) })
      tracks.push(...sound.getTracks())
      const { shows } = wishes.value
      let picture: MediaStream | null = null
      if (shows === 'screen' || shows === 'screen and camera') {
        asked = 'screen'
        picture = await navigator.mediaDevices.getDisplayMedia({ video: { height: { ideal: height.value }, frameRate: { ideal: rate.value } } })
        tracks.push(...picture.getTracks())
      }
      if (shows === 'camera' || shows === 'screen and camera') {
        asked = 'camera'
        const id = known(found.value.cameras, wishes.value.camera)
        const camera = await navigator.mediaDevices.getUserMedia({
          video: { width: { ideal: Math.round((height.value * 16) / 9) }, height: { ideal: height.value }, frameRate: { ideal: rate.value }, ...(id ? { deviceId: { exact: id } } : {}) },
        })
        tracks.push(...camera.getTracks())
        if (picture) {
          const both = await withCorner(picture, camera, rate.value)
          closes.push(both.close)
          picture = both.stream
        } else picture = camera
      }
      for (const each of tracks) each.addEventListener('ended', () => gone(each.kind === 'audio' ? 'The microphone was unplugged.' : shows.startsWith('screen') ? 'The screen is no longer shared.' : 'The camera was unplugged, or may not be used any more.'))
      closes.push(() => tracks.forEach((each) => each.stop()))
      const settings = picture?.getVideoTracks()[0]?.getSettings()
      size.value = settings ? { width: settings.width ?? 0, height: settings.height ?? 0, rate: settings.frameRate ?? 0 } : null
      context ??= new AudioContext()
      judge = capture.value ? new SoundJudge(capture.value.limits, context.sampleRate) : null
      closes.push(await listenTo(context, sound, hear))
      stream.value = new MediaStream([...(picture?.getVideoTracks() ?? []), ...sound.getAudioTracks()])
      await look()
    } catch (error) {
      for (const each of tracks) each.stop()
      close()
      problem.value = deviceProblem(error, asked)
    } finally {
      opening.value = false
    }
  }

  async function look() {
    if (navigator.mediaDevices) found.value = await devices()
  }
  useEventListener(() => navigator.mediaDevices, 'devicechange', () => void look())

  function hear(part: Heard) {
    if (judge) {
      judge.hear(part.heard)
      level.value = judge.level
    }
    for (const each of listeners) each(part)
  }

  const canvas = new OffscreenCanvas(SMALL.width, SMALL.height)
  const pen = canvas.getContext('2d', { willReadFrequently: true })!
  /** Judge what a film shows and what was heard. */
  function judgeNow(film: HTMLVideoElement | null) {
    const trouble = judge?.trouble() ?? ''
    soundTold.value = trouble && SOUND_TOLD[trouble]
    if (!film?.videoWidth || !capture.value || !stream.value || !hasPicture.value) return
    size.value = { width: film.videoWidth, height: film.videoHeight, rate: size.value?.rate ?? 0 } // what is drawn tells its size only then
    pen.drawImage(film, 0, 0, SMALL.width, SMALL.height)
    const seen = judgePicture(pen.getImageData(0, 0, SMALL.width, SMALL.height).data, capture.value.limits)
    pictureTold.value = seen && PICTURE_TOLD[seen]
  }

  onBeforeUnmount(() => {
    close()
    void context?.close()
  })

  return {
    found, stream, problem, opening, level, soundTold, pictureTold, size, hasPicture, open, close, look,
    /** Have a film that shows the stream judged as long as it is there. */
    watchFilm: (film: Ref<HTMLVideoElement | null>) => useIntervalFn(() => judgeNow(film.value), LOOKS),
    /** Be handed what is heard, so many samples a second; call what is returned to end that. */
    listen(heard: (samples: Float32Array, rate: number) => void) {
      const own = (part: Heard) => heard(part.heard, context!.sampleRate)
      listeners.add(own)
      return () => void listeners.delete(own)
    },
  }
}
