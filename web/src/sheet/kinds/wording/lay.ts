import type { WordRef } from '@/document/tokens'
import type { SheetPage } from '@/sheet/useSheetPage'

/** The captions of some words: hidden, or their settings opened. */
export async function layWording({ doc, laying }: SheetPage, words: [WordRef, WordRef], hidden: boolean) {
  const there = () => {
    const tokens = doc.value?.rows.flatMap((row) => row.tokens) ?? []
    const [first, last] = words.map((ref) => tokens.findIndex((token) => token.origin === ref.origin && token.word?.id === ref.word))
    return doc.value?.bars.find((bar) => bar.kind === 'wording' && bar.first === first && bar.last === last)
  }
  if (hidden || !there()) await laying.put('wording', words, hidden ? { kind: 'wording', hidden } : undefined)
  const made = there()
  if (made && !hidden) laying.openLayer(made.layer)
}
