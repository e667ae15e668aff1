import { ElMessageBox } from 'element-plus'
import type { ComputedRef, Ref } from 'vue'
import type { WordRef } from './tokens'
import type { Choices } from './useChoices'
import type { useDocument } from './useDocument'

/** The pieces of a clip: splitting one, and putting a gap between two. `time` is the playhead, in seconds of the clip. */
export function usePieces(sheet: ReturnType<typeof useDocument>, choices: Ref<Choices | null>, refs: ComputedRef<[WordRef, WordRef] | null>, time: Ref<number>) {
  const { doc, ask } = sheet

  /** Split before the selected word, or else before the one at the playhead. */
  function split() {
    const tokens = doc.value?.rows.flatMap((row) => row.tokens) ?? []
    const here = tokens.find((token) => token.word && token.at !== null && token.at >= time.value - 0.05)
    const word = refs.value?.[0] ?? (here && { origin: here.origin, word: here.word!.id })
    if (word) void ask({ ask: 'split', word })
  }

  async function addGap() {
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

  return { split, addGap }
}
