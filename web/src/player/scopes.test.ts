import { describe, expect, it } from 'vitest'
import { vectorscope, waveform } from './scopes'
import { sharpen } from './sharpening'

const pixels = (...colours: [number, number, number][]) => new Uint8ClampedArray(colours.flatMap((each) => [...each, 255]))

describe('scopes', () => {
  it('show for each column how light it is', () => {
    const counts = waveform(pixels([0, 0, 0], [255, 255, 255], [0, 0, 0], [128, 128, 128]), 2, 4)
    expect([...counts]).toEqual([0, 1, 0, 1, 0, 0, 2, 0])
  })

  it('show colours away from the middle, greys in it', () => {
    const at = (colour: [number, number, number]) => {
      const n = vectorscope(pixels(colour), 9).indexOf(1)
      return { x: n % 9, y: Math.floor(n / 9) }
    }
    expect(at([90, 90, 90])).toEqual({ x: 4, y: 4 })
    expect(at([255, 0, 0]).y).toBe(0)
    expect(at([0, 0, 255]).x).toBe(8)
    expect(at([0, 255, 0])).toEqual({ x: 1, y: 8 })
  })
})

describe('sharpening', () => {
  it('adds what a picture has more than its blur, in its light alone', () => {
    const data = pixels([100, 50, 20], [200, 200, 200])
    sharpen(data, pixels([100, 50, 20], [100, 100, 100]), 0.3)
    expect([...data]).toEqual([100, 50, 20, 255, 230, 230, 230, 255])
  })
})
