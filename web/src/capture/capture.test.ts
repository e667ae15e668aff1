import { describe, expect, it } from 'vitest'
import { Capture } from './capture'

/** What a microphone hears: the place of each sample on the clock, in blocks of 128. */
const blocks = (first: number, count: number) =>
  Array.from({ length: count }, (_, n) => ({ at: first + n * 128, heard: Float32Array.from({ length: 128 }, (_, k) => first + n * 128 + k) }))

describe('what belongs to a recording', () => {
  it('begins and ends on the very sample, and leaves out a pause', () => {
    const capture = new Capture()
    const taken: number[] = []
    const hear = (parts: ReturnType<typeof blocks>) => parts.forEach((part) => taken.push(...(capture.take(part) ?? [])))
    hear(blocks(0, 2))
    capture.begin(300)
    hear(blocks(256, 4))
    capture.stop(800)
    hear(blocks(768, 4))
    capture.begin(1500)
    hear(blocks(1280, 4))
    expect(capture.first).toBe(300)
    expect(capture.count).toBe(taken.length)
    expect(taken).toEqual([...Array.from({ length: 500 }, (_, n) => 300 + n), ...Array.from({ length: 1792 - 1500 }, (_, n) => 1500 + n)])
  })

  it('is nothing before it began', () => {
    expect(new Capture().take(blocks(0, 1)[0]!)).toBeNull()
  })
})
