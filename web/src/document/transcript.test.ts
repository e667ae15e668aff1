import { describe, expect, it } from 'vitest'
import { changed, timeIn, type Transcript, type Word } from './transcript'

const word = (id: number, text: string): Word => ({
  id, text, start: id, end: id + 0.5, confidence: 1, speaker: 'S1', speaker_by: 'nobody', kind: 'word',
})
const page = (words: Word[]): Transcript => ({
  words, words_at: 0, complete: true, heard: 9, duration: 9, paragraphs: [], pauses: [], speakers: [],
})

describe('a change of words', () => {
  const before = page([word(1, 'one'), word(2, 'too'), word(3, 'three')])
  const change = { before: 0, now: 5, paragraphs: [], pauses: [], speakers: [] }

  it('replaces, takes out and puts in by time', () => {
    const after = changed(before, { ...change, gone: [3], come: [word(2, 'two'), { ...word(900, 'and'), start: 2.6 }] })
    expect(after.words.map((each) => each.text)).toEqual(['one', 'two', 'and'])
    expect(after.words_at).toBe(5)
  })

  it('keeps the words it does not touch as they are', () => {
    const after = changed(before, { ...change, gone: [], come: [word(2, 'two')] })
    expect(after.words[0]).toBe(before.words[0])
  })
})

describe('times', () => {
  it('are read as people write them', () => {
    expect([timeIn('1:05'), timeIn('1:02:03.5'), timeIn('90:00'), timeIn('clock'), timeIn('5')]).toEqual([65, 3723.5, 5400, null, null])
  })
})
