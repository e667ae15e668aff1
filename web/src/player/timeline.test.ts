import { describe, expect, it } from 'vitest'
import { placeAt, shape, slicesFrom, sourceFrame, stretchAt, toOutput, toSource, valueAt, type Plan, type SoundLayer, type Stretch } from './timeline'

const RATE = 48_000
const HALF = 192

/** A plan that keeps the given stretches (seconds of the recording), in this order. */
function keeping(...kept: [number, number][]): Plan {
  const stretches: Stretch[] = []
  const sound: SoundLayer[] = []
  let frame = 0
  kept.forEach(([start, end], n) => {
    const frames = Math.round((end - start) * 30)
    stretches.push({ piece: `p${n}`, recording: 'r', frame, frames, start, end, even: true })
    const lead = n ? HALF : 0
    sound.push({ bus: 'speech', layer: '', media: 'r', sample: frame * 1600 - lead, samples: frames * 1600 + lead + HALF, source_sample: start * RATE - lead, gain: 0, level: [], fade_in: 2 * HALF, fade_out: 2 * HALF })
    frame += frames
  })
  return {
    version: 3, rate: { num: 30, den: 1 }, width: 1080, height: 1920, frames: frame, samples: frame * 1600, sample_rate: RATE, master: 0, peak_db: -1.5, ground: '#000000',
    picture: [], sound, prepared: [], spoken: [], stretches, words: [], captions: [], markers: [], script: null, fonts: [],
  }
}

describe('a plan with cuts and a piece moved to the front', () => {
  const plan = keeping([10, 12], [1, 2], [4, 5])

  it('finds the stretch at a time', () => {
    expect(stretchAt(plan, 0)?.start).toBe(10)
    expect(stretchAt(plan, 2)?.start).toBe(1)
    expect(stretchAt(plan, 99)?.start).toBe(4)
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

  it('looks in one piece first, where the same stands twice', () => {
    const twice = keeping([10, 12], [8, 14])
    expect(toOutput(twice, 11, 'p1')).toBeCloseTo(5)
    expect(toOutput(twice, 11, 'gone')).toBeCloseTo(1)
  })

  it('follows what was moved out of a piece, and stays with the piece where its end was cut', () => {
    const moved = keeping([4, 6], [0, 4], [6, 8]) // 4 to 6 went to the front
    expect(toOutput(moved, 5, 'p1')).toBeCloseTo(1)
    const cut = keeping([0, 2], [10, 12])
    expect(toOutput(cut, 3, 'p0')).toBeCloseTo(2)
  })

  it('hands out slices that cover every layer once, in the order they begin', () => {
    const slices = slicesFrom(plan, 0, 0.7 * RATE)
    const begins = slices.map((slice) => slice.layer.sample + slice.first)
    expect(begins).toEqual([...begins].sort((a, b) => a - b))
    for (const layer of plan.sound!) {
      const own = slices.filter((slice) => slice.layer === layer)
      expect(own.reduce((sum, slice) => sum + slice.count, 0)).toBe(Math.min(layer.samples, plan.samples - layer.sample))
    }
    expect(slicesFrom(plan, plan.samples, RATE)).toEqual([])
  })

  it('two sounds that cross add up to an even power', () => {
    const [one, two] = plan.sound!
    const first = one!.samples - 2 * HALF
    const falling = new Float32Array(2 * HALF).fill(1)
    const rising = new Float32Array(2 * HALF).fill(1)
    shape({ layer: one!, first, count: 2 * HALF }, falling)
    shape({ layer: two!, first: 0, count: 2 * HALF }, rising)
    falling.forEach((value, n) => expect(value ** 2 + rising[n]! ** 2).toBeCloseTo(1))
  })
})

describe('knots', () => {
  it('say which frame is shown, also beyond their ends', () => {
    const ramp = [{ frame: 10, source: 100 }, { frame: 20, source: 110 }, { frame: 30, source: 130 }, { frame: 40, source: 130 }]
    expect([9, 10, 15, 25, 30, 35].map((frame) => sourceFrame(ramp, frame))).toEqual([99, 100, 105, 120, 130, 130])
    expect(sourceFrame([{ frame: 5, source: 50 }], 7)).toBe(52)
    expect(sourceFrame([{ frame: 5, source: 1 }, { frame: 6, source: 2 }], 0)).toBe(0)
  })

  it('say how strong a layer is and where it stands', () => {
    const rise = [{ at: 10, value: 0 }, { at: 20, value: 1 }]
    expect([0, 10, 15, 20, 30].map((at) => valueAt(rise, at))).toEqual([0, 0, 0.5, 1, 1])
    expect(valueAt([], 7)).toBe(1)
    const moves = [{ frame: 0, x: 0, y: 0, width: 100, turn: 0 }, { frame: 10, x: 50, y: 20, width: 200, turn: 90 }]
    expect(placeAt(moves, 5)).toEqual({ x: 25, y: 10, width: 150, turn: 45 })
    expect(placeAt(moves, 99)).toMatchObject({ x: 50, turn: 90 })
  })
})
