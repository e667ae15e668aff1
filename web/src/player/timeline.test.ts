import { describe, expect, it } from 'vitest'
import { fadeIn, segmentAt, sliceFrom, toOutput, toSource, type Plan, type Segment } from './timeline'

const RATE = 48_000

/** A plan that keeps the given stretches (seconds of the recording), in this order. */
function keeping(...stretches: [number, number][]): Plan {
  const segments: Segment[] = []
  let at = 0
  for (const [start, end] of stretches) {
    segments.push({
      recording: 'r',
      frame: Math.round(at * 30),
      frames: Math.round((end - start) * 30),
      source_frame: Math.round(start * 30),
      sample: Math.round(at * RATE),
      samples: Math.round((end - start) * RATE),
      source_sample: Math.round(start * RATE),
    })
    at += end - start
  }
  const samples = Math.round(at * RATE)
  return { rate: { num: 30, den: 1 }, width: 1080, height: 1920, frames: Math.round(at * 30), samples, sample_rate: RATE, join_samples: 384, gain_db: 0, peak_db: -1.5, segments, framing: null, words: [], captions: [], script: null }
}

describe('a plan with cuts and a piece moved to the front', () => {
  const plan = keeping([10, 12], [1, 2], [4, 5])

  it('finds the segment at a sample', () => {
    expect(segmentAt(plan, 0)?.source_sample).toBe(10 * RATE)
    expect(segmentAt(plan, 2 * RATE)?.source_sample).toBe(RATE)
    expect(segmentAt(plan, 99 * RATE)?.source_sample).toBe(4 * RATE)
  })

  it('maps output to recording and back', () => {
    for (const [out, source] of [[0.5, 10.5], [2.25, 1.25], [3.5, 4.5]] as const) {
      expect(toSource(plan, out)).toBeCloseTo(source)
      expect(toOutput(plan, source)).toBeCloseTo(out)
    }
  })

  it('takes a time that is cut to the next that is kept', () => {
    expect(toOutput(plan, 3)).toBeCloseTo(3)
    expect(toOutput(plan, 6)).toBeCloseTo(0)
    expect(toOutput(plan, 50)).toBeCloseTo(4)
  })

  it('hands out slices that cover every sample once and fade only at joins', () => {
    const slices = []
    for (let at = 0; at < plan.samples; ) {
      const slice = sliceFrom(plan, at, 0.7 * RATE)!
      expect(slice.segment.sample + slice.first).toBe(at)
      slices.push(slice)
      at += slice.count
    }
    expect(slices.reduce((sum, slice) => sum + slice.count, 0)).toBe(plan.samples)
    expect(slices.filter((slice) => slice.opens)).toHaveLength(3)
    expect(slices.filter((slice) => slice.closes)).toHaveLength(3)
    expect(sliceFrom(plan, plan.samples, RATE)).toBeUndefined()
  })
})

it('a fade and its mirror image keep the power', () => {
  const rise = fadeIn(384)
  rise.forEach((value, n) => expect(value ** 2 + rise[383 - n]! ** 2).toBeCloseTo(1))
})
