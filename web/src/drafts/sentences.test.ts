import { describe, expect, it } from 'vitest'
import { flipped, moved, reworded, said } from './sentences'
import type { Sentence } from './useDrafts'

const of = (text: string, more: Partial<Sentence> = {}): Sentence => ({ text, said: text, kind: 'text', part: 0, kept: true, seconds: 1, ...more })
const texts = (all: Sentence[]) => all.map((each) => each.text).join('')

describe('sentences of a draft', () => {
  const all = [of('a'), of('b'), of('c', { kept: false })]
  it('are kept or left out, one at a time', () => {
    expect(flipped(all, 2).map((each) => each.kept)).toEqual([true, true, true])
    expect(flipped(flipped(all, 0), 0)).toEqual(all)
  })
  it('move, and nothing is lost', () => {
    expect(texts(moved(all, 0, 2))).toBe('bca')
    expect(texts(moved(all, 2, 0))).toBe('cab')
    expect(moved(all, 1, 1)).toEqual(all)
  })
  it('are said otherwise, but never not at all', () => {
    expect(reworded(all, 1, ' bee ')[1]!.said).toBe('bee')
    expect(reworded(all, 1, '  ')).toEqual(all)
  })
  it('are shown twice only where they are said otherwise than written', () => {
    expect(said(of('Here is what you need:', { said: 'Here is what you need.' }))).toBe(true)
    expect(said(of('3 km', { said: 'three kilometres.' }))).toBe(false)
  })
})
