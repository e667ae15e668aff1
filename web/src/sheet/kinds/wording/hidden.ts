import type { Doc } from '@/document/useDocument'

/** Words that captions leave out: what they say, where that is, and the layer that hides them. */
export interface HiddenWords { layer: string; text: string; at: number }

/** What is hidden in the captions of a clip, in order. */
export function hiddenIn(doc: Doc): HiddenWords[] {
  const hiding = new Set((doc.sheet.layers ?? []).filter(({ content }) => content.kind === 'wording' && content.hidden).map((layer) => layer.id))
  const tokens = doc.rows.flatMap((row) => row.tokens)
  return doc.bars.filter((bar) => hiding.has(bar.layer) && bar.first !== null && bar.start !== null).map((bar) => ({
    layer: bar.layer, at: bar.start!, text: tokens.slice(bar.first!, bar.last! + 1).flatMap((token) => (token.word && token.at !== null ? [token.word.text] : [])).join(' '),
  })).sort((a, b) => a.at - b.at)
}
