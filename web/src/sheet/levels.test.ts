import { describe, expect, it } from 'vitest'
import type { Doc } from '@/document/useDocument'
import type { Line, Segment } from './bars'
import { drawnIn, levelAt, timesOf } from './levels'

const layer = { bus: 'music', layer: 'l1', media: 'm', sample: 100, samples: 400, source_sample: 0, gain: 0, level: [{ at: 0, value: 1 }, { at: 200, value: 0.2 }], fade_in: 0, fade_out: 100 } as const
const row = (...at: (number | null)[]): Line => ({ first: 0, tokens: at.map((each) => ({ start: 0, end: 1, placed: { at: each, left: null } })) as never })

describe('the level of a sound beside the words', () => {
  it('follows its knots and fades', () => {
    const factors = [1, 2, 3, 4, 5].map((seconds) => levelAt(layer as never, seconds, 100))
    expect(factors.map((each) => Math.round(each * 100) / 100)).toEqual([1, 0.6, 0.2, 0.2, 0])
  })

  it('knows when a row is heard', () => {
    expect(timesOf(row(2, null, 3))).toEqual([2, 4])
    expect(timesOf(row(null))).toBeNull()
  })

  it('is drawn down the row, with beats where they are', () => {
    const doc = { plan: { sample_rate: 100, sound: [layer] }, beats: [1.5, 2.5, 9] } as unknown as Doc
    const segment = { bar: { layer: 'l1' }, top: 0, bottom: 1 } as Segment
    const { curve, beats } = drawnIn(segment, row(1, 2), doc)
    expect([curve[0], curve.at(-1)!.map((each) => Math.round(each * 100) / 100)]).toEqual([[0, 1], [1, 0.2]])
    expect(beats).toEqual([0.25, 0.75])
    expect(drawnIn({ ...segment, bar: { layer: 'l2' } } as Segment, row(1, 2), doc)).toEqual({ curve: [], beats: [] })
  })
})
