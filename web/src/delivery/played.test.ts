import { describe, expect, it } from 'vitest'
import { played } from './played'

const ranges = (...spans: [number, number][]) => ({ length: spans.length, start: (n: number) => spans[n]![0], end: (n: number) => spans[n]![1] })

describe('what was played', () => {
  it('is the sum of all that was, each part once, and nothing before there is a film', () => {
    expect(played(ranges([0, 4], [10, 12.5]))).toBe(6.5)
    expect(played(ranges())).toBe(0)
    expect(played(undefined)).toBe(0)
  })
})
