import { describe, expect, it } from 'vitest'
import { click, clickTimes, CLICKING, delayOf } from './delay'

const RATE = 48_000

/** What a microphone would record: the clicks later by so much, softer, in some noise. */
function recorded(delay: number, loud: number, noise: number): Float32Array {
  const heard = Float32Array.from({ length: Math.ceil(CLICKING * RATE) }, (_, n) => noise * Math.sin(n * 12.9898) * Math.cos(n * 78.233))
  const shape = click(RATE)
  for (const at of clickTimes) shape.forEach((value, n) => (heard[Math.round((at + delay) * RATE) + n]! += loud * value))
  return heard
}

describe('how late a sound comes back', () => {
  it.each([0, 0.012, 0.0634, 0.21])('is found to a fraction of a millisecond: %f s', (delay) => {
    expect(delayOf(recorded(delay, 0.2, 0.01), RATE)).toBeCloseTo(delay, 4)
    expect(delayOf(recorded(delay, 0.02, 0.002), RATE)).toBeCloseTo(delay, 4)
  })

  it('is not made up where nothing is heard, or only noise', () => {
    expect(delayOf(recorded(0.05, 0, 0), RATE)).toBeNull()
    expect(delayOf(recorded(0.05, 0, 0.3), RATE)).toBeNull()
    expect(delayOf(new Float32Array(10), RATE)).toBeNull()
    const beeps = new Float32Array(Math.ceil(CLICKING * RATE)) // of something else, each 0.47 s
    for (let at = 0.1; at < CLICKING - 0.1; at += 0.47) click(RATE).forEach((value, n) => (beeps[Math.round(at * RATE) + n] = value))
    expect(delayOf(beeps, RATE)).toBeNull()
  })
})
