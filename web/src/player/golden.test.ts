import { gunzipSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import fades from '../../../tests/golden/fades.json'
import grades from '../../../tests/golden/grades.json'
import keying from '../../../tests/golden/keying.json'
import knots from '../../../tests/golden/knots.json'
import limiter from '../../../tests/golden/limiter.json'
import moments from '../../../tests/golden/moments.json'
import placing from '../../../tests/golden/placing.json'
import sharpening from '../../../tests/golden/sharpening.json'
import visibility from '../../../tests/golden/visibility.json'
import { interpolate } from './grades'
import { tablesOf, takeOut } from './keying'
import { DELAY, Limiter } from './limiter'
import { sharpen } from './sharpening'
import { fps, ownFrame, placeAt, shape, sourceFrame, tooLong, valueAt, type Plan, type SoundLayer } from './timeline'
import { visibleAt } from './visible'

/** The page computes what the core does: both are held to what the core has written down (tests/golden). */
describe('the page says what the core says', () => {
  it('of values, places and frames of a source between knots', () => {
    for (const each of knots) {
      each.frames.forEach((frame, n) => {
        expect(valueAt(each.values, frame)).toBeCloseTo(each.value[n]!, 5)
        expect(sourceFrame(each.times, frame)).toBe(each.source[n])
        const place = placeAt(each.places, frame)
        for (const side of ['x', 'y', 'width', 'turn'] as const) expect(place[side]).toBeCloseTo(each.place[n]![side], 4)
      })
    }
  })

  it('of the first frame of what begins at a time', () => {
    for (const { rate, times, frames } of moments) {
      const plan = { rate, frames: 2000 } as Plan
      expect(times.map((each) => Math.floor(ownFrame(plan, each) * fps(plan)))).toEqual(frames)
    }
  })

  it('of which layers are seen', () => {
    for (const each of visibility) {
      const plan = each as unknown as Plan
      each.frames.forEach((frame, n) => expect(visibleAt(plan, frame).map((layer) => plan.picture!.indexOf(layer))).toEqual(each.shown[n]))
    }
  })

  it('of how a sound rises and falls, in pieces of any length', () => {
    for (const each of fades) {
      const layer = each.layer as SoundLayer
      for (const longest of [layer.samples, 17]) {
        const heard: number[] = []
        for (let first = 0; first < layer.samples; first += longest) {
          const samples = new Float32Array(Math.min(longest, layer.samples - first)).fill(1)
          shape({ layer, first, count: samples.length }, samples)
          heard.push(...samples)
        }
        heard.forEach((value, n) => expect(value).toBeCloseTo(each.heard[n]!, 4))
      }
    }
  })

  it('of what a limiter leaves', () => {
    const all = Float32Array.from([...limiter.sound, ...new Array<number>(DELAY).fill(0)])
    const made = [new Float32Array(all.length), new Float32Array(all.length)]
    new Limiter(10 ** (limiter.ceiling / 20), 2).process([all, all.map((each) => each / 2)], made, all.length)
    limiter.limited.forEach((value, n) => expect(made[0]![n + DELAY]).toBeCloseTo(value, 4))
  })

  it('of colours in a look, but for how they round', () => {
    for (const each of grades) {
      const table = new Uint8Array(gunzipSync(Buffer.from(each.table, 'base64')))
      const data = new Uint8ClampedArray(each.colours.flatMap((colour) => [...colour, 255]))
      interpolate(data, table)
      each.graded.forEach((colour, n) => colour.forEach((value, k) => expect(Math.abs(data[n * 4 + k]! - value)).toBeLessThanOrEqual(1.5)))
    }
  })

  it('of greys that are sharpened', () => {
    for (const each of sharpening) {
      const pixels = (greys: number[]) => new Uint8ClampedArray(greys.flatMap((grey) => [grey, grey, grey, 255]))
      const data = pixels(each.grey)
      sharpen(data, pixels(each.soft), each.amount)
      each.sharpened.forEach((grey, n) => {
        if (grey > 16 && grey < 235) expect(Math.abs(data[n * 4]! - grey)).toBeLessThanOrEqual(1)
      })
    }
  })

  it('of what is too long for an outlet', () => {
    for (const each of placing.long) expect(tooLong(placing, each.seconds)).toBe(each.too_long)
  })

  it('of how much of a colour is a screen, and what is left of it', () => {
    for (const { screen, places, share, blue, red } of keying.tables) {
      const made = tablesOf(screen)
      const at = (table: Uint8Array) => places.map(([cb, cr]) => table[cb! * 256 + cr!]!)
      const apart = (a: number[], b: number[]) => Math.max(...a.map((each, n) => Math.abs(each - b[n]!)))
      expect([apart(at(made.share), share), apart(at(made.blue), blue), apart(at(made.red), red)].every((each) => each <= 1)).toBe(true)
    }
  })

  it('of how much of a picture covers what is in the place of its screen', () => {
    const { size, rgb, covers, screen } = keying
    const data = new Uint8ClampedArray(size * size * 4).fill(255)
    for (let n = 0; n < size * size; n++) data.set(rgb.slice(n * 3, n * 3 + 3), n * 4)
    const image = { data, width: size, height: size } as ImageData
    takeOut(image, screen, false)
    const made = covers.map((_, n) => data[n * 4 + 3]!)
    expect(Math.max(...made.map((each, n) => Math.abs(each - covers[n]!)))).toBeLessThan(12) // of 255: colours of 8 bits on the way
    const quick = { ...image, data: new Uint8ClampedArray(data.length).fill(255) } as ImageData
    for (let n = 0; n < size * size; n++) quick.data.set(rgb.slice(n * 3, n * 3 + 3), n * 4)
    takeOut(quick, screen, true) // as it passes by: what is all screen, or none of it, is so
    const sure = covers.flatMap((each, n) => (each === 0 || each === 255 ? [Math.abs(quick.data[n * 4 + 3]! - each)] : []))
    expect(sure.filter((each) => each > 40).length / sure.length).toBeLessThan(0.1)
    expect(new Set(covers).size, 'there are edges to compare').toBeGreaterThan(10)
  })
})
