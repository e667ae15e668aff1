import { computed, ref, type Ref } from 'vue'
import { useCommands } from '@/commands/registry'
import { bringingBack, cutting, type Token } from './tokens'
import type { useDocument } from './useDocument'

interface Page {
  move(step: number, extend: boolean): void
  moveLine?: (down: boolean, extend: boolean) => boolean
  all(): void
  clear(): void
}

/** Cutting and bringing back what is chosen on a page of words, undo and redo. */
export function useCutting(document: ReturnType<typeof useDocument>, page: Ref<Page | null>, toggle: () => void) {
  const chosen = ref<Token[]>([])
  const piece = computed(() => document.doc.value?.sheet.pieces?.[0]?.id ?? '')
  const ready = () => document.doc.value !== null
  const any = () => ready() && chosen.value.length > 0

  useCommands(() => [
    { id: 'play', label: 'Play or pause', keys: ['Space'], run: toggle },
    { id: 'cut', label: 'Cut', keys: ['Delete', 'Backspace'], enabled: any, why: 'Select some words first.', run: () => void document.edit(cutting(piece.value, chosen.value)) },
    { id: 'bring-back', label: 'Restore', keys: ['B'], enabled: any, why: 'Select some words first.', run: () => void document.edit(bringingBack(piece.value, chosen.value)) },
    { id: 'undo', label: 'Undo', keys: ['Ctrl+Z'], enabled: ready, run: () => void document.undo() },
    { id: 'redo', label: 'Redo', keys: ['Ctrl+Shift+Z', 'Ctrl+Y'], enabled: ready, run: () => void document.redo() },
    { id: 'left', label: 'The word before', keys: ['Left', 'Shift+Left'], run: (event) => page.value?.move(-1, event.shiftKey) },
    { id: 'right', label: 'The next word', keys: ['Right', 'Shift+Right'], run: (event) => page.value?.move(1, event.shiftKey) },
    { id: 'up', label: 'The line above', keys: ['Up', 'Shift+Up'], run: (event) => page.value?.moveLine?.(false, event.shiftKey) },
    { id: 'down', label: 'The line below', keys: ['Down', 'Shift+Down'], run: (event) => page.value?.moveLine?.(true, event.shiftKey) },
    { id: 'all', label: 'Select everything', keys: ['Ctrl+A'], run: () => page.value?.all() },
    { id: 'clear', label: 'Select nothing', keys: ['Escape'], run: () => page.value?.clear() },
  ])

  return { chosen }
}
