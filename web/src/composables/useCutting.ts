import { computed, ref, type Ref } from 'vue'
import { bringingBack, cutting, type Token } from './tokens'
import type { useDocument } from './useDocument'
import { useEditKeys } from './useEditKeys'

interface Page {
  move(step: number, extend: boolean): void
  moveLine?: (down: boolean, extend: boolean) => boolean
  clear(): void
}

/** Cutting and bringing back what is chosen on a page of words, by button and by key. */
export function useCutting(
  document: ReturnType<typeof useDocument>, page: Ref<Page | null>, toggle: () => void, more?: (event: KeyboardEvent) => boolean,
) {
  const chosen = ref<Token[]>([])
  const piece = computed(() => document.doc.value?.sheet.pieces?.[0]?.id ?? '')
  const cut = () => void document.edit(cutting(piece.value, chosen.value))
  const bringBack = () => void document.edit(bringingBack(piece.value, chosen.value))

  useEditKeys({
    toggle,
    cut,
    bringBack,
    undo: () => void document.undo(),
    redo: () => void document.redo(),
    move: (step, extend) => page.value?.move(step, extend),
    moveLine: (down, extend) => page.value?.moveLine?.(down, extend) ?? false,
    clear: () => page.value?.clear(),
    more,
  })

  return { chosen, cut, bringBack }
}
