import { computed, onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'
import { Captions } from '@/player/captions'
import { Painter } from '@/player/painter'
import { Player } from '@/player/player'
import { fps, toOutput, toSource, type Plan } from '@/player/timeline'
import { tellError } from './tell'

interface Stage {
  plan: Ref<Plan | null>
  url: Ref<string | null>
  picture: Ref<HTMLCanvasElement | null>
  words?: Ref<HTMLCanvasElement | null> // the canvas for captions
  fonts?: Ref<string[]>
}

/** Plays the plan on a stage. Times are seconds of the output; `source` is seconds of the recording. */
export function usePlayer(stage: Stage) {
  const time = ref(0)
  const playing = ref(false)
  const ready = ref(false)
  const speed = ref(1)
  const player = shallowRef<Player | null>(null)
  let painter: Painter | null = null
  let captions: Captions | null = null
  let drawn = -1

  const source = computed(() => (stage.plan.value ? toSource(stage.plan.value, time.value) : 0))
  const length = computed(() => (stage.plan.value ? stage.plan.value.samples / stage.plan.value.sample_rate : 0))

  function drawCaptions(seconds: number) {
    const plan = stage.plan.value
    const canvas = stage.words?.value
    if (!plan?.script || !canvas || !stage.fonts?.value.length) {
      if (captions && !plan?.script) {
        captions.destroy()
        captions = null
      }
      return
    }
    captions ??= new Captions(canvas, plan.script, stage.fonts.value)
    const frame = Math.floor(seconds * fps(plan) + 1e-6)
    if (frame === drawn) return
    drawn = frame
    void captions.load(plan.script).then(() => captions?.draw(frame / fps(plan)))
  }

  function openPlayer(plan: Plan, url: string) {
    painter = new Painter(stage.picture.value!)
    painter.clear()
    const made = new Player(plan, {
      show(sample) {
        const now = stage.plan.value
        if (now?.framing && stage.words) painter!.paint(sample, now.framing, now.width)
        else painter!.paintPlain(sample)
      },
      moved(seconds) {
        time.value = seconds
        drawCaptions(seconds)
      },
      playing(is) {
        playing.value = is
      },
    })
    player.value = made
    if (speed.value !== 1) void made.setSpeed(speed.value)
    made.open(url).then(() => (ready.value = true), tellError)
  }

  watch(
    [stage.plan, stage.url, stage.picture],
    ([plan, url, canvas], [before]) => {
      if (!plan || !url || !canvas) return
      if (!player.value) openPlayer(plan, url)
      else if (plan !== before) {
        // Stay at the same place of the recording, also when what lies before it has changed.
        const at = before ? toOutput(plan, toSource(before, player.value.time)) : 0
        drawn = -1
        void player.value.change(plan, at)
      }
    },
    { flush: 'post' },
  )
  watch(speed, (rate) => void player.value?.setSpeed(rate))
  if (stage.fonts) watch(stage.fonts, () => drawCaptions(time.value))

  onBeforeUnmount(() => {
    player.value?.close()
    captions?.destroy()
  })

  return {
    time,
    playing,
    ready,
    speed,
    source,
    length,
    toggle: () => (playing.value ? player.value?.pause() : void player.value?.play()),
    play: () => void player.value?.play(),
    pause: () => player.value?.pause(),
    seek: (seconds: number) => void player.value?.seek(seconds),
    seekSource: async (seconds: number) => {
      if (stage.plan.value) await player.value?.seek(toOutput(stage.plan.value, seconds) + 1e-4)
    },
  }
}
