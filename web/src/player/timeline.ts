import type { Schemas } from '@/api/client'

export type Plan = Schemas['Plan']
export type Stretch = Schemas['Stretch']
export type PictureLayer = Schemas['PictureLayer']
export type SoundLayer = Schemas['SoundLayer']

/** A recording, or another video, as a layer shows it. */
export type Film = Extract<PictureLayer['source'], { type: 'video' }>

/** What a layer shows: its source, and what is in the place of a screen. */
export const shownBy = ({ source, keyed }: PictureLayer) => (keyed?.ground ? [source, keyed.ground.source] : [source])

/** The films among it. */
export const filmsOf = (layer: PictureLayer) => shownBy(layer).filter((each): each is Film => each.type === 'video')

/** Whether what is below may be seen through a layer. */
export const isClear = ({ source, keyed }: PictureLayer) => (source.type === 'still' && !!source.clear) || (!!keyed && !keyed.ground)

/** Frames per second of a plan. */
export function fps(plan: Plan): number {
  return (plan.rate.num ?? 30) / (plan.rate.den ?? 1)
}

/** Length of a plan in seconds. */
export function lengthOf(plan: Plan): number {
  return plan.samples / (plan.sample_rate ?? 48_000)
}

/** A time inside the first frame that begins at or after a time of the output: what begins then is seen in it. */
export function ownFrame(plan: Plan, seconds: number): number {
  const frame = Math.ceil(seconds * fps(plan) - 1e-6)
  return Math.max(Math.min(frame, plan.frames - 1), 0) / fps(plan) + 1e-4
}

/** Whether a clip lasts longer than an outlet takes. */
export const tooLong = (outlet: { longest: number }, seconds: number) => seconds > outlet.longest

/** The place of the last element of a list whose `key` is at or before `at`; -1 before the first. */
function lastAt<T>(list: readonly T[], at: number, key: (each: T) => number): number {
  let low = 0
  let high = list.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (key(list[middle]!) <= at) low = middle + 1
    else high = middle
  }
  return low - 1
}

/** The stretch shown at a time of the output; the last one from the end on. Undefined in an empty plan. */
export function stretchAt(plan: Plan, seconds: number): Stretch | undefined {
  const stretches = plan.stretches ?? []
  return stretches[Math.max(lastAt(stretches, seconds * fps(plan) + 1e-6, (each) => each.frame), 0)]
}

/** Seconds of the output to seconds of the recording shown there. */
export function toSource(plan: Plan, seconds: number): number {
  const stretch = stretchAt(plan, seconds)
  if (!stretch) return 0
  const part = Math.min(Math.max((seconds * fps(plan) - stretch.frame) / Math.max(stretch.frames, 1), 0), 1)
  return stretch.start + part * (stretch.end - stretch.start)
}

/**
 * Seconds of a recording to seconds of the output; a time that is cut gives the next one that is kept. `piece` tells
 * in which piece to look first, where the same may stand twice; what was moved out of it is found where it is now.
 */
export function toOutput(plan: Plan, seconds: number, piece?: string): number {
  const stretches = plan.stretches ?? []
  const own = stretches.filter((each) => each.piece === piece)
  const alike = own.length ? stretches.filter((each) => each.recording === own[0]!.recording) : stretches
  const held = [...own, ...alike].find((each) => seconds >= each.start && seconds < each.end)
  if (held) return (held.frame + ((seconds - held.start) / (held.end - held.start)) * held.frames) / fps(plan)
  const later = (own.length ? own : stretches).filter((each) => each.start > seconds)
  if (later.length) return later.reduce((best, each) => (each.start < best.start ? each : best)).frame / fps(plan)
  const last = own.at(-1)
  return last ? (last.frame + last.frames) / fps(plan) : lengthOf(plan)
}

interface TimeKnot { frame: number; source: number }

/** Which frame of its source a video shows at an output frame: the same lines and rounding as `source_frame` in the core. */
export function sourceFrame(knots: readonly TimeKnot[], frame: number): number {
  if (knots.length === 1) return Math.trunc(knots[0]!.source) + frame - knots[0]!.frame
  const n = Math.min(Math.max(lastAt(knots, frame, (knot) => knot.frame), 0), knots.length - 2)
  const a = knots[n]!
  const b = knots[n + 1]!
  const at = a.source + ((frame - a.frame) * (b.source - a.source)) / (b.frame - a.frame)
  return at >= 0 ? Math.trunc(at + 0.5) : 0
}

/** A value at a frame: straight lines between knots, level outside; 1 without any. */
export function valueAt(knots: readonly { at: number; value: number }[], at: number): number {
  if (!knots.length) return 1
  const n = lastAt(knots, at, (knot) => knot.at)
  if (n < 0) return knots[0]!.value
  if (n === knots.length - 1) return knots[n]!.value
  const a = knots[n]!
  const b = knots[n + 1]!
  return a.value + ((b.value - a.value) * (at - a.at)) / (b.at - a.at)
}

export interface Place { x: number; y: number; width: number; turn: number }

/** Where a layer stands at a frame. */
export function placeAt(knots: readonly Schemas['PlaceKnot'][], frame: number): Place {
  const n = lastAt(knots, frame, (knot) => knot.frame)
  const a = knots[Math.max(n, 0)]!
  const b = knots[n + 1]
  const part = n >= 0 && b ? (frame - a.frame) / (b.frame - a.frame) : 0
  const between = (from: number, to: number) => from + (to - from) * part
  const to = part ? b! : a
  return { x: between(a.x, to.x), y: between(a.y, to.y), width: between(a.width, to.width), turn: between(a.turn ?? 0, to.turn ?? 0) }
}

/** A part of a sound layer that is decoded and scheduled as one buffer: `first` samples into the layer, `count` of them. */
export interface Slice { layer: SoundLayer; first: number; count: number }

/** The sound of a plan from an output sample on, in slices of at most `longest` samples, in the order they begin. */
export function slicesFrom(plan: Plan, sample: number, longest: number): Slice[] {
  const slices: Slice[] = []
  for (const layer of plan.sound ?? []) {
    let first = Math.max(sample - layer.sample, 0)
    const last = Math.min(layer.samples, plan.samples - layer.sample)
    while (first < last) {
      const count = Math.min(longest, last - first)
      slices.push({ layer, first, count })
      first += count
    }
  }
  return slices.sort((a, b) => a.layer.sample + a.first - (b.layer.sample + b.first))
}

/** Apply what of a layer's gain, level and fades falls into a slice. */
export function shape(slice: Slice, samples: Float32Array): void {
  const { layer, first, count } = slice
  const gain = 10 ** ((layer.gain ?? 0) / 20)
  for (let n = 0; n < count; n++) samples[n]! *= gain
  level(layer.level ?? [], first, samples)
  const rise = layer.fade_in ?? 0
  for (let n = first; n < Math.min(rise, first + count); n++) samples[n - first]! *= Math.sin((Math.PI / 2) * ((n + 0.5) / rise))
  const fall = layer.fade_out ?? 0
  for (let n = Math.max(layer.samples - fall, first); n < first + count; n++) {
    samples[n - first]! *= Math.sin((Math.PI / 2) * ((layer.samples - n - 0.5) / fall))
  }
}

/** Multiply samples of a layer, from its `first` on, by the factors at its knots: straight lines between them. A knot is looked
 * at once, not once a sample: plans are watched for changes, and that takes its time. */
function level(knots: readonly Schemas['Knot'][], first: number, samples: Float32Array): void {
  if (!knots.length) return
  let n = 0
  for (let k = 0; k <= knots.length; k++) {
    const [a, b] = [knots[Math.max(k - 1, 0)]!, knots[Math.min(k, knots.length - 1)]!]
    const [from, rise] = [a.at, b.at > a.at ? (b.value - a.value) / (b.at - a.at) : 0]
    const [begin, end] = [a.value, k < knots.length ? Math.min(b.at - first, samples.length) : samples.length]
    for (; n < end; n++) samples[n]! *= begin + rise * (first + n - from)
  }
}
