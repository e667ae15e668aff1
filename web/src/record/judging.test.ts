import { describe, expect, it } from 'vitest'
import { humOf, judgePicture, SoundJudge, type DeviceLimits } from './judging'

const LIMITS: DeviceLimits = { silent: 0.001, silent_after: 4, faint: 0.03, clipped: 0.99, hum: 0.5, hum_heard: 0.0005, dark: 0.16, flat: 0.02, short: 600 }
const RATE = 16_000
const tone = (frequency: number, level: number, seconds = 1) => Float32Array.from({ length: RATE * seconds }, (_, n) => level * Math.sin((2 * Math.PI * frequency * n) / RATE))
/** Something like speech: tones that come and go. */
const speech = (level: number, seconds: number) => Float32Array.from({ length: RATE * seconds }, (_, n) => level * Math.sin(n * 0.11) * Math.sin(n * 0.031) * Math.abs(Math.sin(n / 3000)))

function judged(...parts: Float32Array[]) {
  const judge = new SoundJudge(LIMITS, RATE)
  for (const part of parts) for (let n = 0; n < part.length; n += 128) judge.hear(part.subarray(n, n + 128))
  return judge.trouble()
}

describe('what is told of a microphone', () => {
  it('is nothing of speech', () => expect(judged(speech(0.3, 6))).toBe(''))
  it('is silence after some seconds of it, not at once', () => {
    expect(judged(speech(0.3, 3), new Float32Array(RATE * 3))).toBe('')
    expect(judged(speech(0.3, 3), new Float32Array(RATE * 5))).toBe('nothing')
  })
  it('is distortion while it lasts', () => {
    expect(judged(speech(0.3, 2), tone(300, 1, 1))).toBe('clipped')
    expect(judged(tone(300, 1, 1), speech(0.3, 5))).toBe('')
  })
  it('is hum of either mains', () => {
    expect(judged(tone(50, 0.01, 3))).toBe('hum')
    expect(judged(tone(60, 0.01, 3))).toBe('hum')
    expect(judged(tone(200, 0.1, 3))).toBe('')
  })
  it('is that one is hard to hear', () => expect(judged(speech(0.01, 8))).toBe('faint'))
})

it('finds the mains beside other sound', () => {
  expect(humOf(tone(50, 0.5), RATE)).toBeGreaterThan(0.95)
  expect(humOf(tone(120, 0.5), RATE)).toBeGreaterThan(0.95)
  expect(humOf(tone(440, 0.5), RATE)).toBeLessThan(0.05)
  expect(humOf(new Float32Array(100), RATE)).toBe(0)
})

it('tells a dark picture from a covered lens', () => {
  const picture = (of: (n: number) => number) => Uint8ClampedArray.from({ length: 400 }, (_, n) => (n % 4 === 3 ? 255 : of(Math.floor(n / 4))))
  expect(judgePicture(picture((n) => n * 2), LIMITS)).toBe('')
  expect(judgePicture(picture((n) => (n * 2) % 60), LIMITS)).toBe('dark')
  expect(judgePicture(picture(() => 4), LIMITS)).toBe('flat')
})
