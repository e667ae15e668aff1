import type { Schemas } from '@/api/client'
import type { Doc, Edit } from './useDocument'

export type Word = Schemas['Word']
export type Pause = Schemas['Pause']

/** What the eye meets in the text: a word, or a pause long enough to be shown. */
export type Token =
  | { kind: 'word'; start: number; end: number; word: Word }
  | { kind: 'pause'; start: number; end: number; pause: Pause; n: number } // n: its place among the pauses

/** Words and pauses in the order they are heard. */
export function tokensOf(words: Word[], pauses: Pause[]): Token[] {
  const tokens: Token[] = []
  let n = 0
  const pausesBefore = (time: number) => {
    while (n < pauses.length && pauses[n]!.start < time) {
      const pause = pauses[n]!
      tokens.push({ kind: 'pause', start: pause.start, end: pause.end, pause, n: n++ })
    }
  }
  for (const word of words) {
    pausesBefore(word.start)
    tokens.push({ kind: 'word', start: word.start, end: word.end, word })
  }
  pausesBefore(Infinity)
  return tokens
}

/** What has become of each token, by the document: "" whole, "cut", or the seconds that are left of a pause. */
export function statesOf(doc: Doc | null): (token: Token) => string {
  const struck = new Set(doc?.struck)
  const short = new Map(doc?.short.map((each) => [each.pause, each.left]))
  return (token) => {
    if (token.kind === 'word') return struck.has(token.word.id) ? 'cut' : ''
    const left = short.get(token.n)
    return left === undefined ? '' : left ? left.toFixed(1) : 'cut'
  }
}

/** The edits that cut these tokens of a piece. */
export function cutting(piece: string, tokens: Token[]): Edit[] {
  const edits: Edit[] = []
  const words = tokens.flatMap((token) => (token.kind === 'word' ? [token.word.id] : []))
  if (words.length) edits.push({ type: 'cut_words', piece, words, reason: 'hand' })
  for (const token of tokens) {
    if (token.kind === 'pause') edits.push({ type: 'cut_pause', piece, start: token.start, end: token.end, reason: 'hand' })
  }
  return edits
}

/** The edit that brings these tokens back. */
export function bringingBack(piece: string, tokens: Token[]): Edit[] {
  if (!tokens.length) return []
  return [
    {
      type: 'bring_back',
      piece,
      words: tokens.flatMap((token) => (token.kind === 'word' ? [token.word.id] : [])),
      spans: tokens.flatMap((token) => (token.kind === 'pause' ? [[token.start, token.end] as [number, number]] : [])),
    },
  ]
}

/** The place of the token of a word; -1 when it is not there. */
export function placeOf(tokens: Token[], word: Word): number {
  for (let n = Math.max(tokenAt(tokens, word.start) - 1, 0); n < tokens.length; n++) {
    const token = tokens[n]!
    if (token.kind === 'word' && token.word.id === word.id) return n
    if (token.start > word.start + 1) break
  }
  return -1
}

/** The last token that begins at or before a time of the recording; -1 before the first. */
export function tokenAt(tokens: Token[], seconds: number): number {
  let low = 0
  let high = tokens.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (tokens[middle]!.start <= seconds + 1e-3) low = middle + 1
    else high = middle
  }
  return low - 1
}
