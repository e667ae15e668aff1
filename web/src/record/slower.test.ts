import { expect, it } from 'vitest'
import { Slower } from './slower'

const tone = (rate: number, seconds: number) => Float32Array.from({ length: rate * seconds }, (_, n) => Math.sin((2 * Math.PI * 300 * n) / rate))

it.each([48_000, 44_100, 16_000])('keeps a tone and its length, part by part, from %i samples a second', (rate) => {
  const slower = new Slower(16_000)
  const whole = tone(rate, 1)
  const made: number[] = []
  for (let n = 0; n < whole.length; n += 128) made.push(...slower.take(whole.subarray(n, n + 128), rate))
  expect(Math.abs(made.length - 16_000)).toBeLessThanOrEqual(1)
  // The middle of what each sample stands for is half of that after its beginning.
  const late = (rate / 16_000 - 1) / 2 / rate
  const away = made.slice(10, -10).map((value, n) => Math.abs(value - Math.sin(2 * Math.PI * 300 * ((n + 10) / 16_000 + late))))
  expect(Math.max(...away)).toBeLessThan(0.03)
})
