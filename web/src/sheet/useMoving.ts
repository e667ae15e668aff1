import { ref, type ComputedRef } from 'vue'
import { wordRefs, type Token, type WordRef } from '@/document/tokens'
import type { useDocument } from '@/document/useDocument'

/** Moving and copying words of a clip: at once to the front, or held until a place is chosen, or dragged. */
export function useMoving(sheet: ReturnType<typeof useDocument>, refs: ComputedRef<[WordRef, WordRef] | null>, unselect: () => void) {
  /** The words that are about to be moved or copied, while their new place is being chosen. */
  const held = ref<{ refs: [WordRef, WordRef]; repeat: boolean } | null>(null)

  const move = (words: [WordRef, WordRef], before: WordRef, repeat = false) =>
    sheet.ask({ ask: 'move', first: words[0], last: words[1], before, repeat }).then(unselect)

  function moveTo(where: 'front' | 'before' | 'repeat' | 'copy') {
    if (!refs.value) return
    if (where === 'before' || where === 'copy') {
      held.value = { refs: refs.value, repeat: where === 'copy' }
      return
    }
    const place = front()
    if (place) void move(refs.value, place, where === 'repeat')
  }

  /** A line that opens the clip: moved to the very front, or said there too. */
  async function hookFirst({ first, last }: { first: WordRef; last: WordRef }, repeat: boolean) {
    const place = front()
    if (place) await sheet.ask({ ask: 'move', first, last, before: place, repeat })
  }

  /** What the clip begins with, a gap too. */
  function front(): WordRef | null {
    const token = sheet.doc.value?.rows.flatMap((row) => row.tokens.filter((token) => token.word || !row.recording)).at(0)
    return token ? { origin: token.origin, word: token.word?.id ?? null } : null
  }

  /** Put the words that are held before the first of these. */
  function put(tokens: Token[]) {
    const place = wordRefs(tokens)
    if (!held.value || !place) return
    void move(held.value.refs, place[0], held.value.repeat)
    held.value = null
  }

  /** What is selected was dragged onto a token. */
  function drop(token: Token) {
    const place = wordRefs([token])
    if (refs.value && place) void move(refs.value, place[0])
  }

  return { held, moveTo, hookFirst, put, drop }
}
