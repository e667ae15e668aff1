import { computed, onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'
import { useResizeObserver } from '@vueuse/core'
import type { Schemas } from '@/api/client'
import { Captions, NO_CAPTIONS } from './captions'
import { assetFile } from '@/api/files'
import type { Moment } from './loudness'
import { Player } from './player'
import { fps, lengthOf, ownFrame, stretchAt, toOutput, toSource, type Plan } from './timeline'
import { tellError } from '@/shared/tell'

export type Source = Schemas['SourceOut']

interface Stage {
  plan: Ref<Plan | null>
  sources: Ref<Source[]> // the recordings that the plan shows
  document?: Ref<string> // whose prepared sounds are heard
  picture: Ref<HTMLCanvasElement | null>
  words?: Ref<HTMLCanvasElement | null> // the canvas for captions; without it recordings are shown as they are
  fonts?: Ref<string[]>
}

/** Plays the plan on a stage. Times are seconds of the output; `source` is seconds of the recording shown. */
export function usePlayer(stage: Stage) {
  const time = ref(0)
  const playing = ref(false)
  const ready = ref(false)
  const speed = ref(1)
  const coloured = ref(true) // false shows colours as they were filmed
  const moments = shallowRef<Moment[]>([]) // how loud it was since it began to play
  const player = shallowRef<Player | null>(null)
  let captions: Captions | null = null
  let drawn = -1

  const source = computed(() => (stage.plan.value ? toSource(stage.plan.value, time.value) : 0))
  const length = computed(() => (stage.plan.value ? lengthOf(stage.plan.value) : 0))
  const find = (media: string) => stage.sources.value.find((each) => each.id === media)
  const playable = computed(() => stage.sources.value.length > 0 && stage.sources.value.every((each) => each.playable))

  function drawCaptions(seconds: number) {
    const plan = stage.plan.value
    const canvas = stage.words?.value
    if (!plan || !canvas || !stage.fonts?.value.length) return
    const frame = Math.floor(seconds * fps(plan) + 1e-6)
    if (!(plan.script || captions)) {
      canvas.dataset.frame = String(frame)
      return
    }
    const script = plan.script ?? NO_CAPTIONS // the renderer stays: a canvas can be given to one alone
    captions ??= new Captions(canvas, script, stage.fonts.value)
    if (frame === drawn) return
    drawn = frame
    delete canvas.dataset.frame // until it is there
    void captions.load(script, (plan.fonts ?? []).map(assetFile)).then(() => captions?.draw(frame / fps(plan))).then(() => {
      if (frame === drawn) canvas.dataset.frame = String(frame)
    })
  }

  function openPlayer(plan: Plan, canvas: HTMLCanvasElement) {
    const made = new Player(
      plan,
      {
        canvas,
        framed: !!stage.words,
        sizeOf: find,
        addresses: {
          recording: (media) => {
            const own = find(media)
            if (own) return own.playable ? `/api/recordings/${media}/files/working` : null
            return stage.document?.value ? `/api/documents/${stage.document.value}/sounds/${media}` : null // made of one
          },
          still: assetFile,
          madeOf: (media) => stage.plan.value?.prepared?.find((each) => each.media === media) ?? null,
          sound: (media) => ([...(stage.plan.value?.prepared ?? []), ...(stage.plan.value?.spoken ?? [])].some((each) => each.media === media) ? `/api/documents/${stage.document?.value}/sounds/${media}` : null),
        },
      },
      {
        moved(seconds) {
          time.value = seconds
          drawCaptions(seconds)
        },
        playing(is) {
          playing.value = is
          if (is) moments.value = []
        },
        heard(moment) {
          moments.value = [...moments.value, moment]
        },
      },
    )
    player.value = made
    if (speed.value !== 1) void made.setSpeed(speed.value)
    made.open().then(() => (ready.value = true), tellError)
  }

  /** Where what was shown before is in another plan, also when what lies before it has changed. */
  function sameMoment(plan: Plan, before: Plan, seconds: number): number {
    const shown = stretchAt(before, seconds)
    return shown?.recording ? toOutput(plan, toSource(before, seconds), shown.piece) : Math.min(seconds, lengthOf(plan))
  }

  watch(coloured, (is) => void player.value?.setColoured(is))

  watch(
    [stage.plan, playable, stage.picture],
    ([plan, able, canvas], [before]) => {
      if (!plan || !canvas || !able) return
      if (!player.value) openPlayer(plan, canvas)
      else if (plan !== before) {
        drawn = -1
        void player.value.change(plan, before ? sameMoment(plan, before, player.value.time) : 0)
      }
    },
    { flush: 'post' },
  )
  watch(speed, (rate) => void player.value?.setSpeed(rate))
  if (stage.fonts) watch(stage.fonts, () => drawCaptions(time.value))
  // Drawn anew in another size: letters are not stretched.
  useResizeObserver(stage.words ?? ref(null), () => {
    drawn = -1
    drawCaptions(time.value)
  })

  onBeforeUnmount(() => {
    player.value?.close()
    captions?.destroy()
  })

  /** Go to where something begins that is said or laid: to the first frame that is its own. */
  const show = (seconds: number) => (stage.plan.value ? player.value?.seek(ownFrame(stage.plan.value, seconds)) : undefined)

  return {
    coloured,
    time,
    playing,
    ready,
    speed,
    moments,
    source,
    length,
    toggle: () => (playing.value ? player.value?.pause() : void player.value?.play()),
    play: async () => player.value?.play(),
    clock: () => player.value?.clock ?? null,
    mute: (muted: boolean) => { if (player.value) player.value.muted = muted },
    goTo: async (seconds: number) => player.value?.seek(seconds),
    pause: () => player.value?.pause(),
    seek: (seconds: number) => void player.value?.seek(seconds),
    show: (seconds: number) => void show(seconds),
    seekSource: async (seconds: number) => {
      if (stage.plan.value) await show(toOutput(stage.plan.value, seconds))
    },
  }
}
