import type { WordRef } from '@/document/tokens'
import type { SheetPage } from '@/sheet/useSheetPage'

/** What words some words have in captions that is already laid over just these. */
function there({ doc }: SheetPage, words: [WordRef, WordRef]) {
  const tokens = doc.value?.rows.flatMap((row) => row.tokens) ?? []
  const [first, last] = words.map((ref) => tokens.findIndex((token) => token.origin === ref.origin && token.word?.id === ref.word))
  return doc.value?.bars.find((bar) => bar.kind === 'wording' && bar.first === first && bar.last === last)
}

/** The captions of some words: hidden, or their settings opened. */
export async function layWording(page: SheetPage, words: [WordRef, WordRef], hidden: boolean) {
  if (hidden || !there(page, words)) await page.laying.put('wording', words, hidden ? { kind: 'wording', hidden } : undefined)
  const made = there(page, words)
  if (made && !hidden) page.laying.openLayer(made.layer)
}

/** Let captions say something else instead of some words; what else they have of their own stays. */
export async function writeWording(page: SheetPage, words: [WordRef, WordRef], text: string) {
  const own = page.doc.value?.sheet.layers?.find((each) => each.id === there(page, words)?.layer)?.content
  await page.laying.put('wording', words, { ...(own?.kind === 'wording' ? own : {}), kind: 'wording', text })
}
