import { ElMessageBox } from 'element-plus'
import type { SheetPage } from './useSheetPage'

const HERE = 0.05 // seconds before the playhead at which a word may begin that it stands at

/** Split before the selected word, or else before the one at the playhead. */
export function split({ doc, refs, player, ask }: SheetPage) {
  const tokens = doc.value?.rows.flatMap((row) => row.tokens) ?? []
  const here = tokens.find((token) => token.word && token.at !== null && token.at >= player.time.value - HERE)
  const word = refs.value?.[0] ?? (here && { origin: here.origin, word: here.word!.id })
  if (word) void ask({ ask: 'split', word })
}

/** Put a gap before the selected word, or at the end. */
export async function addGap({ choices, refs, ask }: SheetPage) {
  const before = refs.value?.[0] ?? null
  const answer = await ElMessageBox.prompt('Seconds of nothing but background', 'Add a gap', {
    inputValue: String(choices.value?.usual_gap ?? ''),
    inputPattern: /^\d+([.,]\d+)?$/,
    inputErrorMessage: 'Give a number of seconds, such as 2 or 1.5.',
    confirmButtonText: 'Add',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  if (answer) await ask({ ask: 'add_gap', seconds: Number((answer as { value: string }).value.replace(',', '.')), before })
}

/** Trim the piece that is selected, or else the one being heard. */
export function trim({ chosen, trimming, openDrawer }: SheetPage) {
  trimming.trimmed.value = chosen.value[0]?.placed?.piece ?? trimming.heard() ?? ''
  if (trimming.trimmed.value) openDrawer('trim')
}

/** Choose words of a recording to stand before the selected ones, or at the end. */
export function addWords({ before, refs, openDrawer }: SheetPage) {
  before.value = refs.value?.[0] ?? null
  openDrawer('add')
}
