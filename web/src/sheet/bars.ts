import type { Schemas } from '@/api/client'
import type { Token } from '@/document/tokens'

export type Bar = Schemas['Bar']

/** A row of the sheet, as lanes need it: its tokens, and the place of the first. */
export interface Line { first: number; tokens: Token[] }

/** The part of a bar beside one row: from `top` to `bottom` (parts of the row), in column `column` of so many (`of`) of its lane. */
export interface Segment { bar: Bar; top: number; bottom: number; begins: boolean; ends: boolean; column: number; of: number }

/** How far down a row a token begins or ends: in proportion to what of the row is heard before it. */
function within(line: Line, token: number, end: boolean): number {
  const lengths = line.tokens.map((each) => (each.placed?.at == null ? 0 : each.placed.left ?? each.end - each.start))
  const total = lengths.reduce((sum, each) => sum + each, 0)
  const count = token - line.first + (end ? 1 : 0)
  if (!total) return count / Math.max(line.tokens.length, 1)
  return lengths.slice(0, count).reduce((sum, each) => sum + each, 0) / total
}

/** The token of a row at a part of its height: where `within` would put it. */
export function tokenAtPart(line: Line, part: number): number {
  for (let n = 0; n < line.tokens.length; n++) {
    if (within(line, line.first + n, true) >= part) return line.first + n
  }
  return line.first + line.tokens.length - 1
}

/** The column in which each bar of a lane stands, and how many there are where it does: so that none covers another. */
export function columnsOf(bars: Bar[]): Map<string, { column: number; of: number }> {
  const columns = new Map<string, { column: number; of: number }>()
  let ends: number[] = [] // of the columns, as far as bars overlap
  let together: { column: number; of: number }[] = []
  for (const bar of [...bars].sort((a, b) => (a.first ?? 0) - (b.first ?? 0) || (b.last ?? 0) - (a.last ?? 0))) {
    const [first, last] = [bar.first ?? 0, bar.last ?? 0]
    if (ends.every((end) => end < first)) [ends, together] = [[], []]
    let column = ends.findIndex((end) => end < first)
    if (column < 0) column = ends.length
    ends[column] = last
    const place = { column, of: 0 }
    together.push(place)
    for (const each of together) each.of = ends.length
    columns.set(bar.layer, place)
  }
  return columns
}

/** The segments of a lane's bars beside one row. */
export function segmentsOf(line: Line, bars: Bar[], columns: ReturnType<typeof columnsOf>): Segment[] {
  const last = line.first + line.tokens.length - 1
  return bars.flatMap((bar) => {
    if (bar.first == null || bar.last == null || bar.last < line.first || bar.first > last) return []
    const begins = bar.first >= line.first
    return [{
      bar,
      begins,
      ends: bar.last <= last,
      top: begins ? within(line, bar.first, false) : 0,
      bottom: bar.last <= last ? within(line, bar.last, true) : 1,
      ...(columns.get(bar.layer) ?? { column: 0, of: 1 }),
    }]
  })
}
