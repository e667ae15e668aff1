import { describe, expect, it } from 'vitest'
import type { Token } from '@/document/tokens'
import { columnsOf, segmentsOf, tokenAtPart, type Bar } from './bars'

const bar = (layer: string, first: number | null, last: number | null): Bar =>
  ({ layer, first, last, kind: 'marker', lane: 'text', label: layer, media: '', start: 0, end: 0, shown: 0, whole: false, note: '' })

/** A row of words a second long each; those of `cut` are not heard. */
function row(first: number, count: number, cut: number[] = []) {
  const tokens = Array.from({ length: count }, (_, n) => ({
    kind: 'pause', n, start: n, end: n + 1, placed: { piece: 'p1', origin: 'p1', recording: 'r', at: cut.includes(n) ? null : n, left: cut.includes(n) ? 0 : null },
  }) as Token)
  return { first, tokens }
}

describe('bars beside rows', () => {
  it('stand where their words stand, in proportion to what is heard', () => {
    const [one] = segmentsOf(row(10, 4), [bar('a', 11, 12)], new Map())
    expect([one!.top, one!.bottom, one!.begins]).toEqual([0.25, 0.75, true])
    const [other] = segmentsOf(row(10, 4, [0, 1]), [bar('a', 12, 12)], new Map())
    expect([other!.top, other!.bottom]).toEqual([0, 0.5])
  })

  it('go on over the rows between', () => {
    const bars = [bar('a', 3, 9)]
    const parts = [row(0, 4), row(4, 4), row(8, 4)].map((line) => segmentsOf(line, bars, new Map())[0]!)
    expect(parts.map((part) => [part.top, part.bottom, part.begins])).toEqual([[0.75, 1, true], [0, 1, false], [0, 0.5, false]])
  })

  it('can be dragged to the token that is beside the pointer', () => {
    expect([0, 0.2, 0.26, 0.9, 1].map((part) => tokenAtPart(row(10, 4), part))).toEqual([10, 10, 11, 13, 13])
    expect(tokenAtPart(row(10, 4, [0, 1]), 0.3)).toBe(12)
  })

  it('are not shown while they sleep', () => {
    expect(segmentsOf(row(0, 4), [bar('a', null, null)], new Map())).toEqual([])
  })

  it('stand side by side where they overlap', () => {
    const columns = columnsOf([bar('a', 0, 9), bar('b', 2, 4), bar('c', 5, 7), bar('d', 10, 12)])
    expect(Object.fromEntries(columns)).toEqual({ a: { column: 0, of: 2 }, b: { column: 1, of: 2 }, c: { column: 1, of: 2 }, d: { column: 0, of: 1 } })
  })
})
