import { describe, expect, it } from 'vitest'
import type { Doc } from '@/document/useDocument'
import { commented } from './commented'
import type { Comment } from './useComments'

const token = (word: number, origin = 'p1') => ({ origin, word: { id: word } })
const doc = { rows: [{ tokens: [token(1), token(2), { origin: 'p1', word: null }, token(3)] }, { tokens: [token(7, 'p2')] }] } as unknown as Doc
const about = (...words: [string, number][]) => ({ words: words.map(([origin, word]) => ({ origin, word })) }) as unknown as Comment

describe('the words that comments are about', () => {
  it('are all from the first to the last, over pauses and pieces', () => {
    expect([...commented(doc, [about(['p1', 2], ['p2', 7])])]).toEqual(['p1 2', 'p1 3', 'p2 7'])
    expect([...commented(doc, [about(['p1', 1], ['p1', 1])])]).toEqual(['p1 1'])
  })
  it('are none where they are gone, or where it is about the whole', () => {
    expect(commented(doc, [about(['p1', 9], ['p1', 9]), { words: null } as unknown as Comment]).size).toBe(0)
  })
})
