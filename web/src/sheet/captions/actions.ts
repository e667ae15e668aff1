import type { SheetPage } from '../useSheetPage'
import type { CaptionStyle } from './useStyles'

/** Choose how the captions of a clip look. */
export const chooseStyle = (page: SheetPage) => (captions: string | null, style: CaptionStyle | null) => page.edit([{ type: 'set_captions', captions, style }])

/** Mark the words that carry their phrases. */
export const findKeywords = (page: SheetPage) => void page.ask({ ask: 'find_keywords' })

/** Mark the selected words in the captions; no longer, where all of them are marked. */
export function markWords({ chosen, doc, edit }: SheetPage) {
  const words = chosen.value.flatMap((token) => (token.kind === 'word' && token.placed ? [{ origin: token.placed.origin, word: token.word.id }] : []))
  const marked = new Set(doc.value?.sheet.keywords?.map((each) => `${each.origin} ${each.word}`))
  void edit([{ type: 'mark_keywords', words, marked: !words.every((each) => marked.has(`${each.origin} ${each.word}`)) }])
}
