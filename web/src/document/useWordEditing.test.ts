import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Token } from './tokens'
import type { Word } from './transcript'
import { useWordEditing } from './useWordEditing'

const word = (id: number, text: string, confidence = 1): Token => ({ kind: 'word', start: id, end: id + 0.5, word: { id, text, confidence } as Word })
const pause: Token = { kind: 'pause', start: 2.5, end: 3, n: 0 }
const tokens = [word(1, 'Quill'), word(2, 'Haven'), pause, word(3, 'ships', 0.4), word(4, 'tides')]
const held = (n: number) => (tokens[n] as Token & { kind: 'word' }).word

const page = { select: vi.fn(), focus: vi.fn(), reveal: vi.fn(), rewrite: vi.fn(), correct: vi.fn() }

function editing(...places: number[]) {
  const selected = ref(places.map((n) => tokens[n]!))
  const words = useWordEditing({ tokens: ref(tokens), selection: { select: page.select, selected } as never, ...page })
  return { ...words, begun: words.edit() }
}

beforeEach(() => vi.clearAllMocks())

describe('correcting a word in its place', () => {
  it('corrects the words of a selection as one text, and nothing where a pause is selected', () => {
    expect(editing(0, 1, 2).editing.value).toEqual({ first: 0, last: 1, text: 'Quill Haven' })
    const none = editing(2)
    expect([none.begun, none.editing.value]).toEqual([false, null])
  })

  it('keeps what was written and leaves the words selected', () => {
    const { keep, editing: place } = editing(0, 1)
    keep(' Quillhaven ', 0)
    expect(page.rewrite).toHaveBeenCalledExactlyOnceWith([held(0), held(1)], 'Quillhaven')
    expect([place.value, page.select.mock.lastCall, page.focus.mock.calls.length]).toEqual([null, [0, 1], 1])
  })

  it('goes on to the next word over a pause, and back, changing nothing that was not changed', () => {
    const { keep, editing: place } = editing(1)
    keep('Haven', 1)
    expect(place.value).toEqual({ first: 3, last: 3, text: 'ships' })
    keep('ships', -1)
    expect(place.value!.text).toBe('Haven')
    expect([page.rewrite.mock.calls, page.reveal.mock.calls]).toEqual([[], [[3], [1]]])
  })

  it('takes Enter on a doubtful word for a yes, and an emptied field for nothing', () => {
    editing(3).keep('ships', 0)
    editing(4).keep('  ', 0)
    expect(page.rewrite).toHaveBeenCalledExactlyOnceWith([held(3)], 'ships')
  })

  it('joins a word with the one beside it, in the order they are heard', () => {
    editing(1).join('Haven', -1)
    editing(3).join('shipped', 1)
    expect(page.correct.mock.calls).toEqual([
      [{ type: 'join', words: [1, 2], texts: ['Quill', 'Haven'] }],
      [{ type: 'join', words: [3, 4], texts: ['shipped', 'tides'] }],
    ])
  })

  it('leaves all as it was when it is dropped, or where no word stands beside', () => {
    const { drop, editing: place } = editing(0)
    drop()
    editing(4).join('tides', 1)
    expect([place.value, page.rewrite.mock.calls, page.correct.mock.calls]).toEqual([null, [], []])
  })
})
