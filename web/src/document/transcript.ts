import type { Schemas } from '@/api/client'

export type Transcript = Schemas['TranscriptOut']
export type WordsChange = Schemas['WordsChange']
export type Speaker = Schemas['Speaker']
export type Word = Schemas['Word']

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

/** Seconds of a time written as 12:30 or 1:02:30, or null for anything else. */
export function timeIn(text: string): number | null {
  const parts = text.trim().match(/^(?:(\d+):)?(\d{1,3}):(\d{2}(?:\.\d+)?)$/)
  return parts ? Number(parts[1] ?? 0) * 3600 + Number(parts[2]) * 60 + Number(parts[3]) : null
}
