import { describe, expect, it } from 'vitest'
import { BETWEEN, DELAY, Limiter, REACH } from './limiter'

/** The same, as it is written down: needs, their lowest nearby, the average of that. */
function reference(sound: number[], ceiling: number): number[] {
  const after = (n: number) => Math.max(...BETWEEN.map((weights) => Math.abs(weights.reduce((sum, weight, k) => sum + weight * (sound[n - 5 + k] ?? 0), 0))))
  const peak = (n: number) => Math.max(Math.abs(sound[n]!), after(n), after(n - 1))
  const needs = sound.map((_, n) => Math.min(1, ceiling / Math.max(peak(n), 1e-9)))
  const need = (n: number) => needs[n] ?? 1
  const span = (n: number, of: (k: number) => number) => Array.from({ length: 2 * REACH + 1 }, (_, k) => of(n - REACH + k))
  const low = new Map<number, number>()
  const held = (n: number) => {
    if (!low.has(n)) low.set(n, Math.min(...span(n, need)))
    return low.get(n)!
  }
  return sound.map((value, n) => (value * span(n, held).reduce((sum, each) => sum + each, 0)) / (2 * REACH + 1))
}

function limited(sound: number[], ceiling: number, block: number): number[] {
  const limiter = new Limiter(ceiling, 2)
  const made: number[] = []
  const all = [...sound, ...new Array<number>(DELAY).fill(0)]
  for (let at = 0; at < all.length; at += block) {
    const side = Float32Array.from(all.slice(at, at + block))
    const output = [new Float32Array(side.length), new Float32Array(side.length)]
    limiter.process([side, side], output, side.length)
    made.push(...output[1]!)
  }
  return made.slice(DELAY)
}

const loud = Array.from({ length: 3000 }, (_, n) => Math.sin(n / 7) * (n > 900 && n < 1400 ? 1.6 : 0.5) + (n === 2500 ? 1.2 : 0))

describe('the limiter', () => {
  it('does what is written down, whatever the blocks', () => {
    const wanted = reference(loud, 0.84)
    for (const block of [128, 77, 3480]) {
      limited(loud, 0.84, block).forEach((value, n) => {
        expect(value).toBeCloseTo(wanted[n]!, 5)
      })
    }
  })

  it('lets nothing over the ceiling, and leaves what is soft as it is', () => {
    const made = limited(loud, 0.84, 128)
    expect(Math.max(...made.map(Math.abs))).toBeLessThanOrEqual(0.84 + 1e-6)
    const soft = 890 - DELAY
    expect(made.slice(0, soft)).toEqual(Array.from(Float32Array.from(loud.slice(0, soft))))
  })
})
