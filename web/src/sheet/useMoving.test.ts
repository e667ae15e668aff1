import { describe, expect, it, vi } from 'vitest'
import { computed, ref } from 'vue'
import type { Token, WordRef } from '@/document/tokens'
import type { useDocument } from '@/document/useDocument'
import { useMoving } from './useMoving'

const word = (n: number): WordRef => ({ origin: 'p1', word: n })
const token = (n: number) => ({ kind: 'word', start: n, end: n + 1, word: { id: n }, placed: { piece: 'p1', origin: 'p1', recording: 'r', at: n, left: null } }) as Token

function moving() {
  const ask = vi.fn(() => Promise.resolve())
  const doc = ref({ rows: [
    { recording: 'gone', tokens: [] },
    { recording: 'r', tokens: [{ word: null, origin: 'p1' }, { word: { id: 7 }, origin: 'p1' }] },
  ] })
  const chosen = ref<[WordRef, WordRef] | null>([word(3), word(4)])
  return { ask, chosen, ...useMoving({ ask, doc } as unknown as ReturnType<typeof useDocument>, computed(() => chosen.value), () => {}) }
}

describe('words are moved', () => {
  it('to the front: before the first word there is', () => {
    const { ask, moveTo } = moving()
    moveTo('repeat')
    expect(ask).toHaveBeenCalledWith({ ask: 'move', first: word(3), last: word(4), before: word(7), repeat: true })
  })

  it('when a place has been chosen for what is held, once', () => {
    const { ask, chosen, held, moveTo, put } = moving()
    moveTo('before')
    expect(ask).not.toHaveBeenCalled()
    chosen.value = [word(9), word(9)]
    put([token(9)])
    put([token(9)])
    expect(ask.mock.calls).toEqual([[{ ask: 'move', first: word(3), last: word(4), before: word(9), repeat: false }]])
    expect(held.value).toBeNull()
  })

  it('where they are dropped, and nowhere when nothing is selected', () => {
    const { ask, chosen, drop } = moving()
    drop(token(2))
    chosen.value = null
    drop(token(1))
    expect(ask.mock.calls).toEqual([[{ ask: 'move', first: word(3), last: word(4), before: word(2), repeat: false }]])
  })
})
