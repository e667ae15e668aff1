import type { Schemas } from '@/api/client'

export type Plan = Schemas['Plan']
export type Segment = Schemas['Segment']

/** Frames per second of a plan. */
export function fps(plan: Plan): number {
  return (plan.rate.num ?? 30) / (plan.rate.den ?? 1)
}

/** The segment heard at an output sample; the last one from the end on. Undefined in an empty plan. */
export function segmentAt(plan: Plan, sample: number): Segment | undefined {
  const segments = plan.segments
  let low = 0
  let high = segments.length
  while (low < high) {
    const middle = (low + high) >> 1
    const segment = segments[middle]!
    if (segment.sample + segment.samples <= sample) low = middle + 1
    else high = middle
  }
  return segments[Math.min(low, segments.length - 1)]
}

/** Seconds of the output to seconds of the recording. */
export function toSource(plan: Plan, seconds: number): number {
  const sample = seconds * plan.sample_rate
  const segment = segmentAt(plan, sample)
  if (!segment) return 0
  const within = Math.min(Math.max(sample - segment.sample, 0), segment.samples)
  return (segment.source_sample + within) / plan.sample_rate
}

/** Seconds of the recording to seconds of the output; a time that is cut gives the next one that is kept. */
export function toOutput(plan: Plan, seconds: number): number {
  const sample = seconds * plan.sample_rate
  let best: number | null = null
  let nearest = Infinity
  for (const segment of plan.segments) {
    const within = sample - segment.source_sample
    if (within >= 0 && within < segment.samples) return (segment.sample + within) / plan.sample_rate
    if (within < 0 && -within < nearest) {
      nearest = -within
      best = segment.sample / plan.sample_rate
    }
  }
  return best ?? plan.samples / plan.sample_rate
}

/** Quarter of a sine from 0 to 1, as the export joins: the squares of it and its mirror image add up to 1. */
export function fadeIn(count: number): Float32Array {
  return Float32Array.from({ length: count }, (_, n) => Math.sin((Math.PI / 2) * ((n + 0.5) / count)))
}

/** A part of a segment's sound that is decoded and scheduled as one buffer; samples of the output. */
export interface Slice {
  segment: Segment
  first: number // samples into the segment
  count: number
  opens: boolean // begins with the segment's fade in
  closes: boolean
}

/** The next slice to play from an output sample on: at most `longest` samples, within one segment. */
export function sliceFrom(plan: Plan, sample: number, longest: number): Slice | undefined {
  if (sample >= plan.samples) return undefined
  const segment = segmentAt(plan, sample)
  if (!segment) return undefined
  const first = Math.max(sample - segment.sample, 0)
  const count = Math.min(longest, segment.samples - first)
  if (count <= 0) return undefined
  return { segment, first, count, opens: first === 0, closes: first + count === segment.samples }
}
