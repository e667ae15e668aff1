import { ref, type ComputedRef } from 'vue'
import { wordRefs, type Token, type WordRef } from './tokens'
import type { useDocument } from './useDocument'

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
    for (const row of sheet.doc.value?.rows ?? []) {
      const front = row.tokens.find((token) => token.word || !row.recording)
      if (front) return void move(refs.value, { origin: front.origin, word: front.word?.id ?? null }, where === 'repeat')
    }
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

  return { held, moveTo, put, drop }
}
