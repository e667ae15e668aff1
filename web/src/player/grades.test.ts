import { describe, expect, it } from 'vitest'
import { interpolate } from './grades'

const POINTS = 33

/** A table of what a function makes of colours, red running fastest. */
function table(of: (r: number, g: number, b: number) => number[]): Uint8Array {
  const made = new Uint8Array(POINTS ** 3 * 3)
  const at = (n: number) => n / (POINTS - 1)
  for (let b = 0; b < POINTS; b++) for (let g = 0; g < POINTS; g++) for (let r = 0; r < POINTS; r++) {
    made.set(of(at(r), at(g), at(b)).map((value) => Math.round(value * 255)), ((b * POINTS + g) * POINTS + r) * 3)
  }
  return made
}

const colours = () => new Uint8ClampedArray([0, 0, 0, 255, 255, 255, 255, 255, 12, 99, 201, 255, 140, 3, 77, 255, 254, 1, 128, 7])

describe('a colour table', () => {
  it('that changes nothing changes nothing', () => {
    const data = colours()
    interpolate(data, table((r, g, b) => [r, g, b]))
    const off = [...data].map((value, n) => Math.abs(value - colours()[n]!))
    expect(Math.max(...off)).toBeLessThanOrEqual(1)
  })

  it('turns the channels it is told to, and leaves what covers', () => {
    const data = colours()
    interpolate(data, table((r, g, b) => [b, 1 - g, r / 2]))
    colours().forEach((value, n) => {
      const [r, g, b] = [...colours().slice(n - (n % 4), n - (n % 4) + 3)] as [number, number, number]
      const wanted = [b, 255 - g, r / 2, value][n % 4]!
      expect(Math.abs(data[n]! - wanted)).toBeLessThanOrEqual(1)
    })
  })
})
