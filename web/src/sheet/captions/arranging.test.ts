import { describe, expect, it } from 'vitest'
import { breakLine, captionsOf, joinBefore, moveWord, splitAt } from './arranging'
import type { Doc } from '@/document/useDocument'

const texts = ['salt', 'and', 'vinegar', 'mend', 'lamps', 'too']
const plan = {
  words: texts.map((text, n) => ({ id: n + 1, origin: 'p1', piece: 'p1', text, start: n, end: n + 0.5, shown: n === 2 ? 'VINEGAR' : null })),
  captions: [
    { lines: [[0, 1], [2]], first: 0, last: 80 },
    { lines: [[3, 4]], first: 90, last: 140, fast: true },
    { lines: [[5]], first: 150, last: 180 },
  ],
} as unknown as Doc['plan']
const all = captionsOf(plan)
const told = (edits: ReturnType<typeof splitAt>) => edits.map((edit) => (edit.type === 'break_caption' ? `${edit.word.word} ${edit.how}` : ''))

describe('captions one by one', () => {
  it('are told with what is written and where lines begin', () => {
    expect(all.map((each) => each.words.map((word) => (word.line ? '/' : '') + word.text).join(' '))).toEqual(['salt and /VINEGAR', 'mend lamps', 'too'])
    expect(all.map((each) => each.fast)).toEqual([false, true, false])
  })

  it('are split where the cursor is, and what follows stays', () => {
    expect(told(splitAt(all, 0, 2))).toEqual(['1 caption', '2 join', '3 caption', '4 caption'])
    expect(splitAt(all, 0, 0)).toEqual([])
    expect(splitAt(all, 0, 3)).toEqual([])
  })

  it('are joined with all their words', () => {
    expect(told(joinBefore(all, 1))).toEqual(['1 caption', '2 join', '3 line', '4 join', '5 join', '6 caption'])
    expect(joinBefore(all, 0)).toEqual([])
  })

  it('have their lines broken and put together again', () => {
    expect(told(breakLine(all, 0, 1))).toEqual(['1 caption', '2 line', '3 line', '4 caption'])
    expect(told(breakLine(all, 0, 2))).toEqual(['1 caption', '2 join', '3 join', '4 caption'])
  })

  it('give words to their neighbours, but never their last', () => {
    expect(told(moveWord(all, 1, -1))).toEqual(['1 caption', '2 join', '3 line', '4 join', '5 caption', '6 caption'])
    expect(told(moveWord(all, 0, 1))).toEqual(['1 caption', '2 join', '3 caption', '4 join', '5 join', '6 caption'])
    expect(moveWord(all, 2, -1)).toEqual([])
  })
})
