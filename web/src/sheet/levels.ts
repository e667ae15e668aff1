import type { Doc } from '@/document/useDocument'
import type { Line, Segment } from './bars'

type SoundLayer = NonNullable<Doc['plan']['sound']>[number]

const POINTS = 8 // of the curve in a bar beside one row

/** By how much a layer is softer at a moment of the output (a factor), by its knots and its fades. */
export function levelAt(layer: SoundLayer, seconds: number, rate: number): number {
  const at = seconds * rate - layer.sample
  const knots = layer.level ?? []
  const after = knots.findIndex((knot) => knot.at > at)
  let level = knots.length ? knots.at(-1)!.value : 1
  if (after === 0) level = knots[0]!.value
  else if (after > 0) {
    const [a, b] = [knots[after - 1]!, knots[after]!]
    level = a.value + ((b.value - a.value) * (at - a.at)) / Math.max(b.at - a.at, 1)
  }
  if (layer.fade_in) level *= Math.sin((Math.PI / 2) * Math.min(Math.max(at / layer.fade_in, 0), 1))
  if (layer.fade_out) level *= Math.sin((Math.PI / 2) * Math.min(Math.max((layer.samples - at) / layer.fade_out, 0), 1))
  return level
}

/** From when until when a row is heard, in seconds of the output; null where all of it is cut. */
export function timesOf(line: Line): [number, number] | null {
  const heard = line.tokens.flatMap((each) => (each.placed?.at == null ? [] : [{ at: each.placed.at, end: each.placed.at + (each.placed.left ?? each.end - each.start) }]))
  return heard.length ? [heard[0]!.at, heard.at(-1)!.end] : null
}

/** What of a bar's sound can be drawn beside a row: its level from 0 to 1 down the row (parts of the bar), and where beats are. */
export function drawnIn(segment: Segment, line: Line, doc: Doc): { curve: [number, number][]; beats: number[] } {
  const times = timesOf(line)
  const layers = (doc.plan.sound ?? []).filter((each) => each.layer === segment.bar.layer)
  if (!times || !layers.length || segment.bottom <= segment.top) return { curve: [], beats: [] }
  const rate = doc.plan.sample_rate!
  const [from, to] = [segment.top, segment.bottom].map((part) => times[0] + part * (times[1] - times[0])) as [number, number]
  const heardAt = (seconds: number) => {
    const at = seconds * rate
    return Math.max(...layers.map((each) => (at >= each.sample && at <= each.sample + each.samples ? levelAt(each, seconds, rate) : 0)))
  }
  const curve = Array.from({ length: POINTS + 1 }, (_, n): [number, number] => [n / POINTS, Math.min(heardAt(from + (n / POINTS) * (to - from)), 1)])
  const beats = layers.some((each) => each.bus === 'music') ? doc.beats.filter((beat) => beat >= from && beat < to).map((beat) => (beat - from) / (to - from)) : []
  return { curve, beats }
}
