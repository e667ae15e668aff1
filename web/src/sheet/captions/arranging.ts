import type { Doc, Edit, WordRef } from '@/document/useDocument'

type Plan = Doc['plan']

/** A word of a caption: what is written, whether a line begins with it, how the server names it, whether it is marked; and the
 * layer that it is of where nobody says it. */
export interface CaptionWord { ref: WordRef; text: string; line: boolean; key: boolean; layer: string | null }

/** A caption as it is: its words, the frame it begins with, whether it is too fast to be read, and whether it lies over a face. */
export interface CaptionNow { words: CaptionWord[]; first: number; fast: boolean; overFace: boolean }

/** The captions of a plan, one by one. */
export function captionsOf(plan: Plan): CaptionNow[] {
  return (plan.captions ?? []).map((caption) => ({
    first: caption.first,
    fast: caption.fast ?? false,
    overFace: caption.over_face ?? false,
    words: caption.lines.flatMap((line, n) => line.map((at, k) => {
      const word = plan.words![at]!
      return { ref: { origin: word.origin ?? '', word: word.id }, text: word.shown ?? word.text, line: n > 0 && k === 0, key: word.key ?? false, layer: word.layer ?? null }
    })),
  }))
}

/** The edits after which captions stand as given, and the one after them begins where it does. */
function arranged(groups: CaptionWord[][], after: CaptionNow | undefined): Edit[] {
  const edits = groups.filter((group) => group.length).flatMap((group) =>
    group.map((word, n): Edit => ({ type: 'break_caption', word: word.ref, how: n === 0 ? 'caption' : word.line ? 'line' : 'join' })))
  return after ? [...edits, { type: 'break_caption', word: after.words[0]!.ref, how: 'caption' }] : edits
}

/** Let a caption begin with its word `at`. */
export function splitAt(all: CaptionNow[], n: number, at: number): Edit[] {
  const own = all[n]?.words ?? []
  return at > 0 && at < own.length ? arranged([own.slice(0, at), own.slice(at).map((word, k) => (k ? word : { ...word, line: false }))], all[n + 1]) : []
}

/** Join a caption to the one before it. */
export function joinBefore(all: CaptionNow[], n: number): Edit[] {
  const [before, own] = [all[n - 1], all[n]]
  return before && own ? arranged([[...before.words, ...own.words]], all[n + 1]) : []
}

/** Let a line begin with a word, or no longer. */
export function breakLine(all: CaptionNow[], n: number, at: number): Edit[] {
  const own = all[n]?.words ?? []
  return at > 0 && own[at] ? arranged([own.map((word, k) => (k === at ? { ...word, line: !word.line } : word))], all[n + 1]) : []
}

/** Give the first word of a caption to the one before it (-1), or its last to the one after it (1). */
export function moveWord(all: CaptionNow[], n: number, step: -1 | 1): Edit[] {
  const [own, other] = [all[n]?.words ?? [], all[n + step]?.words]
  if (!other || own.length < 2) return []
  return step < 0
    ? arranged([[...other, own[0]!], own.slice(1)], all[n + 1])
    : arranged([own.slice(0, -1), [own.at(-1)!, ...other]], all[n + 2])
}
