/** How far a prompter is, in words, and what it goes by. */
export interface Course {
  pace: number // words a minute
  holds: boolean // stopped by hand
  heard: Heard | null // what was heard last, where it follows the voice
}

/** What was heard last: the word that was next then, and how much of it is to be believed. */
export interface Heard {
  word: number
  at: number // seconds of the same clock
  how: 'sure' | 'unsure' | 'waits'
}

const CATCHES_UP = 0.7 // seconds in which it is where it should be
const FASTEST = 4 // times the pace, at most, while it catches up
const STRAY = 6 // words by which it may be ahead without going back
const BELIEVED = 4 // seconds for which what was heard counts; then it goes on by the pace

/** Where the prompter is `seconds` later. It is never beyond `words`. */
export function goOn(word: number, seconds: number, now: number, course: Course, words: number): number {
  const speed = course.pace / 60
  if (course.holds) return word
  const { heard } = course
  if (!heard || heard.how === 'unsure' || (heard.how === 'sure' && now - heard.at > BELIEVED)) return Math.min(word + speed * seconds, words)
  if (heard.how === 'waits') return word
  const target = heard.word + speed * (now - heard.at)
  const away = target - word
  if (away < 0 && away > -STRAY) return word // a little ahead: it waits until it is caught up with
  const step = speed * seconds + away * Math.min(seconds / CATCHES_UP, 1)
  return Math.min(Math.max(word + (away < 0 ? step : Math.min(step, FASTEST * speed * seconds)), 0), words)
}

/** The line in which a word stands, by where lines begin (in words). */
export function lineAt(starts: number[], word: number): number {
  const n = starts.findLastIndex((start) => start <= word)
  return Math.max(n, 0)
}

/** The word with which the line before begins, or this one where one is well into it; `by` 1 for the next. */
export function lineFrom(starts: number[], word: number, by: -1 | 1): number {
  const line = lineAt(starts, word)
  if (by > 0) return starts[Math.min(line + 1, starts.length - 1)] ?? 0
  return word - starts[line]! > 2 ? starts[line]! : (starts[Math.max(line - 1, 0)] ?? 0)
}
