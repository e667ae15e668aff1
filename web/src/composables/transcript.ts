import type { Schemas } from '@/api/client'

export type Transcript = Schemas['TranscriptOut']
export type WordsChange = Schemas['WordsChange']
export type Speaker = Schemas['Speaker']
export type Word = Schemas['Word']

/** Words below this confidence are marked, to be looked at. */
export const DOUBTFUL = 0.5

/** A transcript after a change that the server made to it. */
export function changed(before: Transcript, change: WordsChange): Transcript {
  const gone = new Set(change.gone)
  const come = new Map(change.come.map((word) => [word.id, word]))
  const words: Word[] = []
  for (const word of before.words) {
    if (gone.has(word.id)) continue
    const now = come.get(word.id)
    if (now) come.delete(word.id)
    words.push(now ?? word)
  }
  if (come.size) {
    words.push(...come.values())
    words.sort((a, b) => a.start - b.start)
  }
  return { ...before, words, words_at: change.now, paragraphs: change.paragraphs, pauses: change.pauses ?? before.pauses, speakers: change.speakers }
}

/** The transcript as it will read, shown at once: words under new texts, as many as before. */
export function reading(before: Transcript, words: Word[], texts: string[]): Transcript {
  const come = words.map((word, n) => ({ ...word, text: texts[n]!, confidence: 1 }))
  const { words_at, paragraphs, speakers } = before
  return changed(before, { before: words_at, now: words_at, gone: [], come, paragraphs, pauses: null, speakers })
}

/** Whether a word should be looked at: the recogniser was not sure of it. */
export function doubtful(word: Word): boolean {
  return word.kind === 'word' && word.confidence < DOUBTFUL
}

/** Text without case and punctuation, as it is searched. */
function plain(text: string): string {
  return text.toLowerCase().replace(/’/g, "'").replace(/[^\p{L}\p{N}'\s-]/gu, '')
}

/** Where a text stands in the words, as [first, last] places; parts of words count. */
export function search(words: Word[], text: string): [number, number][] {
  const wanted = plain(text).trim().replace(/\s+/g, ' ')
  if (!wanted) return []
  const starts: number[] = []
  let all = ''
  for (const word of words) {
    starts.push(all.length)
    all += plain(word.text) + ' '
  }
  const found: [number, number][] = []
  let n = 0
  const placeOf = (offset: number) => {
    while (n + 1 < starts.length && starts[n + 1]! <= offset) n++
    return n
  }
  for (let at = all.indexOf(wanted); at >= 0; at = all.indexOf(wanted, at + wanted.length)) {
    const first = placeOf(at)
    found.push([first, placeOf(at + wanted.length - 1)])
  }
  return found
}

/** Seconds of a time written as 12:30 or 1:02:30, or null for anything else. */
export function timeIn(text: string): number | null {
  const parts = text.trim().match(/^(?:(\d+):)?(\d{1,3}):(\d{2}(?:\.\d+)?)$/)
  return parts ? Number(parts[1] ?? 0) * 3600 + Number(parts[2]) * 60 + Number(parts[3]) : null
}
