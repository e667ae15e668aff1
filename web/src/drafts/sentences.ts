import type { Sentence } from './useDrafts'

/** The sentences with one kept that was left out, or the other way round. */
export const flipped = (all: Sentence[], n: number): Sentence[] => all.map((each, k) => (k === n ? { ...each, kept: !each.kept } : each))

/** The sentences with one said otherwise; what holds nothing stays as it was. */
export const reworded = (all: Sentence[], n: number, words: string): Sentence[] => all.map((each, k) => (k === n && words.trim() ? { ...each, said: words.trim() } : each))

/** The sentences with one at another place. */
export function moved(all: Sentence[], from: number, to: number): Sentence[] {
  const rest = all.filter((_, k) => k !== from)
  return [...rest.slice(0, to), all[from]!, ...rest.slice(to)]
}

/** Whether a sentence is said just as it is written. */
export const said = (each: Sentence): boolean => each.said.replace(/[.]$/, '') === each.text.replace(/[.:,;]$/, '')
