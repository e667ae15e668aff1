import { computed, ref, type Ref } from 'vue'
import { placeOf, type Token } from './tokens'
import type { Word } from './transcript'
import type { Correction } from './useDocument'
import type { useSelection } from './useSelection'

const MOST = 40 // words corrected at once

interface Page {
  tokens: Ref<Token[]>
  selection: Pick<ReturnType<typeof useSelection>, 'select' | 'selected'>
  focus: () => void
  reveal?: (n: number) => void
  rewrite: (words: Word[], text: string) => void
  correct: (correction: Correction) => void
}

/** Correcting words in place on a page of tokens: one at a time, on to the next by Tab, joined by Backspace. */
export function useWordEditing({ tokens, selection, focus, reveal, rewrite, correct }: Page) {
  const corrected = ref<Word[] | null>(null)

  const editing = computed(() => {
    const words = corrected.value
    if (!words?.length) return null
    const first = placeOf(tokens.value, words[0]!)
    const last = placeOf(tokens.value, words.at(-1)!)
    return first < 0 || last < 0 ? null : { first, last, text: words.map((word) => word.text).join(' ') }
  })

  /** Begin to correct the selected words; whether there was something to correct. */
  function edit(): boolean {
    const words = selection.selected.value.flatMap((token) => (token.kind === 'word' ? [token.word] : []))
    if (!words.length || words.length > MOST) return false
    corrected.value = words
    return true
  }

  function neighbour(step: number): Word | null {
    const place = editing.value
    if (!place) return null
    for (let n = step > 0 ? place.last + 1 : place.first - 1; n >= 0 && n < tokens.value.length; n += step) {
      const token = tokens.value[n]!
      if (token.kind === 'word') return token.word
    }
    return null
  }

  function keep(text: string, step: number) {
    const words = corrected.value
    if (!words) return
    const next = step ? neighbour(step) : null
    const place = editing.value
    corrected.value = next ? [next] : null
    const doubt = words.some((word) => word.confidence < 1)
    if (text.trim() && (text.trim() !== words.map((word) => word.text).join(' ') || (doubt && !step))) rewrite(words, text.trim())
    if (next) {
      const n = placeOf(tokens.value, next)
      selection.select(n)
      reveal?.(n)
    } else {
      if (place) selection.select(place.first, place.last)
      focus()
    }
  }

  function join(text: string, step: -1 | 1) {
    const words = corrected.value
    const other = neighbour(step)
    corrected.value = null
    focus()
    if (words?.length !== 1 || !other || !text.trim()) return
    const pair: [Word, string][] = [[other, other.text], [words[0]!, text.trim()]]
    if (step > 0) pair.reverse()
    correct({ type: 'join', words: [pair[0]![0].id, pair[1]![0].id], texts: [pair[0]![1], pair[1]![1]] })
  }

  function drop() {
    corrected.value = null
    focus()
  }

  return { editing, edit, keep, join, drop }
}
