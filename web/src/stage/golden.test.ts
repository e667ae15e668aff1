import { describe, expect, it } from 'vitest'
import placing from '../../../tests/golden/placing.json'
import type { Doc } from '@/document/useDocument'
import { edgesOf, overlapping, snapped, within } from './seen'

const LIMITS = { minimum: 0, maximum: 1, snaps: [1 / 3, 1 / 2, 2 / 3], snaps_within: 0.015 }

/** While something is dragged the page says what the core would (tests/golden/placing.json). */
describe('what is dragged by hand', () => {
  it('is drawn to the lines that it is near to', () => {
    for (const each of placing.snaps) {
      const { at, line } = snapped(each.value, LIMITS, edgesOf(each.size, each.free as [number, number]))
      expect(at).toBeCloseTo(each.at, 6)
      if (each.line === null) expect(line).toBeNull()
      else expect(line).toBeCloseTo(each.line, 6)
      expect(within(each.value, LIMITS)).toBeCloseTo(each.within, 6)
    }
  })

  it('meets what else is there at the time', () => {
    const doc = { bars: placing.bars } as unknown as Doc
    for (const each of placing.meets) {
      const met = each.meets && placing.bars.find((bar) => bar.layer === each.meets)!.label
      expect(overlapping(doc, each.layer, each.box)).toBe(met ? `“${met}”` : '')
    }
  })
})
