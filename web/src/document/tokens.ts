import type { Schemas } from '@/api/client'
import type { Doc, Edit } from './useDocument'

export type Word = Schemas['Word']
export type Pause = Schemas['Pause']
export type WordRef = Schemas['WordRef']

/** On a sheet, where a token stands: its piece, when it is heard (null when cut), and what is left of it (null when all is). */
interface Placed {
  piece: string
  origin: string
  recording: string | null
  at: number | null
  left: number | null
}

/** What the eye meets in the text: a word, or a pause long enough to be shown. `n` is the place of a pause on a desk. */
export type Token = { start: number; end: number; placed?: Placed } & ({ kind: 'word'; word: Word } | { kind: 'pause'; n: number })

/** The tokens of a sheet, in the order of its rows. */
export function tokensOfRow(row: Schemas['Row']): Token[] {
  return row.tokens.map(({ word, start, end, piece, origin, at, left }) => {
    const placed = { piece, origin, recording: row.recording, at, left }
    return word ? { kind: 'word', start, end, word, placed } : { kind: 'pause', start, end, n: -1, placed }
  })
}

/** Words and pauses in the order they are heard. */
export function tokensOf(words: Word[], pauses: Pause[]): Token[] {
  const tokens: Token[] = []
  let n = 0
  const pausesBefore = (time: number) => {
    while (n < pauses.length && pauses[n]!.start < time) {
      const pause = pauses[n]!
      tokens.push({ kind: 'pause', start: pause.start, end: pause.end, n: n++ })
    }
  }
  for (const word of words) {
    pausesBefore(word.start)
    tokens.push({ kind: 'word', start: word.start, end: word.end, word })
  }
  pausesBefore(Infinity)
  return tokens
}

/** What has become of each token: "" whole, "cut", or the seconds that are left of a pause. */
export function statesOf(doc: Doc | null): (token: Token) => string {
  const struck = new Set(doc?.struck)
  const short = new Map(doc?.short.map((each) => [each.pause, each.left]))
  return (token) => {
    const left = token.placed ? token.placed.left : token.kind === 'word' ? (struck.has(token.word.id) ? 0 : null) : (short.get(token.n) ?? null)
    return left === null ? '' : left ? left.toFixed(1) : 'cut'
  }
}

/** The tokens by the piece they stand in; those of a desk stand in `only`. */
function byPiece(tokens: Token[], only: string): Map<string, Token[]> {
  const pieces = new Map<string, Token[]>()
  for (const token of tokens) {
    const piece = token.placed?.piece ?? only
    pieces.set(piece, [...(pieces.get(piece) ?? []), token])
  }
  return pieces
}

const wordIds = (tokens: Token[]) => tokens.flatMap((token) => (token.kind === 'word' ? [token.word.id] : []))

/** The edits that cut these tokens. */
export function cutting(only: string, tokens: Token[]): Edit[] {
  const edits: Edit[] = []
  for (const [piece, own] of byPiece(tokens, only)) {
    const words = wordIds(own)
    if (words.length) edits.push({ type: 'cut_words', piece, words, reason: 'hand' })
    for (const token of own) {
      if (token.kind === 'pause' && token.placed?.recording !== null) edits.push({ type: 'cut_pause', piece, start: token.start, end: token.end, reason: 'hand' })
    }
  }
  return edits
}

/** The edits that bring these tokens back. */
export function bringingBack(only: string, tokens: Token[]): Edit[] {
  return [...byPiece(tokens, only)].map(([piece, own]) => ({
    type: 'bring_back',
    piece,
    words: wordIds(own),
    spans: own.flatMap((token) => (token.kind === 'pause' ? [[token.start, token.end] as [number, number]] : [])),
  }))
}

/** The first and last word of a selection on a sheet, as the server names them; null when there is none. */
export function wordRefs(tokens: Token[]): [WordRef, WordRef] | null {
  const refs = tokens.flatMap((token) => (token.placed && (token.kind === 'word' || !token.placed.recording) ? [{ origin: token.placed.origin, word: token.kind === 'word' ? token.word.id : null }] : []))
  return refs.length ? [refs[0]!, refs.at(-1)!] : null
}

/** The last token of a sheet that is heard at or before a time of the output; -1 before the first. */
export function heardAt(tokens: Token[], time: number): number {
  return tokens.findLastIndex((token) => token.placed?.at != null && token.placed.at <= time + 1e-3)
}

/** The place of the token of a word; -1 when it is not there. */
export function placeOf(tokens: Token[], word: Word): number {
  return tokens.findIndex((token) => token.kind === 'word' && token.word.id === word.id)
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
