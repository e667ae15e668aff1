import { describe, expect, it } from 'vitest'
import { seenAt } from './seen'
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
})
