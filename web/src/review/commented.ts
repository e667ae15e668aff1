import type { Doc } from '@/document/useDocument'
import type { Comment } from './useComments'

/** The words of the sheet that open comments are about, as `origin word`. */
export function commented(doc: Doc, comments: Comment[]): Set<string> {
  const names = doc.rows.flatMap((row) => row.tokens.flatMap((token) => (token.word ? [`${token.origin} ${token.word.id}`] : [])))
  const found = new Set<string>()
  for (const { words } of comments) {
    if (!words) continue
    const [first, last] = words.map((each) => names.indexOf(`${each.origin} ${each.word}`)) as [number, number]
    if (first >= 0 && last >= first) names.slice(first, last + 1).forEach((each) => found.add(each))
  }
  return found
}
