import { describe, expect, it } from 'vitest'
import { bringingBack, cutting, heardAt, placeOf, statesOf, tokenAt, tokensOf, tokensOfRow, wordRefs, type Word } from './tokens'
import type { Doc } from './useDocument'

const word = (id: number, start: number): Word => ({ id, text: `w${id}`, start, end: start + 0.4, confidence: 1, speaker: 'S1', speaker_by: 'nobody', kind: 'word' })
const words = [word(1, 1), word(2, 1.5), word(3, 3)]
const pauses = [{ after: null, start: 0, end: 1 }, { after: 2, start: 1.9, end: 3 }, { after: 3, start: 3.4, end: 5 }]
const tokens = tokensOf(words, pauses)

describe('tokens', () => {
  it('stand in the order in which they are heard', () => {
    expect(tokens.map((token) => (token.kind === 'word' ? token.word.id : 'pause'))).toEqual(['pause', 1, 2, 'pause', 3, 'pause'])
  })

  it('are found by time and by word', () => {
    expect([tokenAt(tokens, -1), tokenAt(tokens, 0.5), tokenAt(tokens, 1.6), tokenAt(tokens, 99)]).toEqual([-1, 0, 2, 5])
    expect([placeOf(tokens, words[2]!), placeOf(tokens, word(9, 3))]).toEqual([4, -1])
  })

  it('of a sheet stand in its order, and know their piece, their time and what is left of them', () => {
    const row = { piece: 'p2', recording: 'r', start: 3, end: 5, at: 0.2, missing: false, tokens: [
      { piece: 'p2', origin: 'p1', word: word(3, 3), start: 3, end: 3.4, left: null, at: 0.2 },
      { piece: 'p2', origin: 'p1', word: null, start: 3.4, end: 5, left: 0.35, at: 0.6 },
      { piece: 'p1', origin: 'p1', word: word(1, 1), start: 1, end: 1.4, left: 0, at: null },
    ] }
    const own = tokensOfRow(row)
    expect(own.map(statesOf(null))).toEqual(['', '0.3', 'cut'])
    expect([heardAt(own, 0), heardAt(own, 0.3), heardAt(own, 9)]).toEqual([-1, 0, 1])
    expect(wordRefs(own)).toEqual([{ origin: 'p1', word: 3 }, { origin: 'p1', word: 1 }])
    expect(cutting('', own).map((edit) => 'piece' in edit && edit.piece)).toEqual(['p2', 'p2', 'p1'])
  })

  it('look as the document says', () => {
    const state = statesOf({ struck: [2], short: [{ pause: 1, left: 0.35 }, { pause: 2, left: 0 }] } as unknown as Doc)
    expect(tokens.map(state)).toEqual(['', '', 'cut', '0.3', '', 'cut'])
    expect(tokens.map(statesOf(null))).toEqual(Array(6).fill(''))
  })

  it('are cut and brought back: words as one, pauses each', () => {
    expect(cutting('p1', tokens.slice(1, 4))).toEqual([
      { type: 'cut_words', piece: 'p1', words: [1, 2], reason: 'hand' },
      { type: 'cut_pause', piece: 'p1', start: 1.9, end: 3, reason: 'hand' },
    ])
    expect(bringingBack('p1', tokens.slice(2, 4))).toEqual([{ type: 'bring_back', piece: 'p1', words: [2], spans: [[1.9, 3]] }])
    expect([cutting('p1', []), bringingBack('p1', [])]).toEqual([[], []])
  })
})
