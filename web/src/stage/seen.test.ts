import { describe, expect, it } from 'vitest'
import { edgesOf, seenAt, snapped } from './seen'
import type { Plan } from '@/player/timeline'

const size = () => ({ width: 1920, height: 1080 })
const plan = (crop: object, place: object[]) =>
  ({ width: 1080, height: 1920, picture: [{ first: 0, last: 100, source: { type: 'video', media: 'r', knots: [] }, crop, place }] }) as unknown as Plan

describe('what is seen of a recording', () => {
  it('is the crop where that fills the stage', () => {
    const seen = seenAt(plan({ x: 300, y: 0, width: 608, height: 1080 }, [{ frame: 0, x: 540, y: 960, width: 1080, turn: 0 }]), 5, size)!
    expect(seen.across).toBeCloseTo(604 / 1920)
    expect(seen.wide).toBeCloseTo(608 / 1920)
  })

  it('follows the whole picture as it moves', () => {
    const moving = [{ frame: 0, x: 540, y: 960, width: 3413, turn: 0 }, { frame: 10, x: 740, y: 960, width: 3413, turn: 0 }]
    const at = (frame: number) => seenAt(plan({ x: 0, y: 0, width: 1920, height: 1080 }, moving), frame, size)!.across
    expect(at(0)).toBeCloseTo(0.5)
    expect(at(10)).toBeCloseTo(0.5 - 200 / 3413)
  })

  it('tells where on the stage the picture stands', () => {
    const { box } = seenAt(plan({ x: 0, y: 0, width: 1920, height: 1080 }, [{ frame: 0, x: 540, y: 480, width: 540, turn: 0 }]), 5, size)!
    expect(box.x).toBeCloseTo(0.25)
    expect(box.width).toBeCloseTo(0.5)
    expect(box.height).toBeCloseTo(303.75 / 1920)
    expect(box.y + box.height / 2).toBeCloseTo(0.25)
  })

  it('is drawn to lines that are near, within limits', () => {
    const limits = { minimum: 0, maximum: 1, snaps: [0.5, 2 / 3], snaps_within: 0.015 }
    expect(snapped(0.495, limits)).toEqual({ at: 0.5, line: 0.5 })
    expect(snapped(0.66, limits).line).toBeCloseTo(2 / 3)
    expect(snapped(0.45, limits)).toEqual({ at: 0.45, line: null })
    const edges = edgesOf(0.4, [0.1, 0.8])
    expect(snapped(0.31, limits, edges).at).toBeCloseTo(0.3) // its left edge on that of the safe area
    expect(snapped(0.605, limits, edges).line).toBe(0.8)
    expect(snapped(1.2, limits)).toEqual({ at: 1, line: null })
  })
})
