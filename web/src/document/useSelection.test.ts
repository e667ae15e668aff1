import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import type { Token } from './tokens'
import { useSelection } from './useSelection'

const painted = new Map<string, unknown>()
vi.stubGlobal('CSS', { highlights: { set: (name: string, value: unknown) => painted.set(name, value), delete: (name: string) => painted.delete(name) } })
vi.stubGlobal('Highlight', class { constructor(readonly range: { a: number; b: number }) {} })
vi.stubGlobal('Range', class {
  a = -1
  b = -1
  setStartBefore(element: Element) { this.a = Number((element as unknown as { dataset: { t: string } }).dataset.t) }
  setEndAfter(element: Element) { this.b = Number((element as unknown as { dataset: { t: string } }).dataset.t) }
})

/** A page of tokens that stand beside one another, ten pixels wide each. */
class FakePage {
  readonly elements = Array.from({ length: 10 }, (_, n) => ({ dataset: { t: String(n) }, scrollIntoView: vi.fn(), closest: () => this.elements[n], getBoundingClientRect: () => ({ left: n * 10, top: 0, bottom: 10 }) }))
  setPointerCapture = vi.fn()
  scrollBy = vi.fn()
  querySelector(selector: string) { return this.elements[Number(selector.match(/\d+/)![0])] ?? null }
  contains() { return true }
  getBoundingClientRect() { return { top: 0, bottom: 400 } }
}

function selection(options: Parameters<typeof useSelection>[3] = {}) {
  const page = new FakePage(), clicked = vi.fn(), scope = effectScope()
  vi.stubGlobal('document', { elementFromPoint: (x: number) => page.elements[Math.floor(x / 10)] ?? null })
  const tokens = ref(Array.from({ length: 10 }, (_, n) => ({ kind: 'word', start: n, end: n + 1, word: { id: n } }) as unknown as Token))
  const made = scope.run(() => useSelection(ref(page as unknown as HTMLElement), tokens, clicked, options))!
  const at = (n: number, more: Partial<PointerEvent> = {}) => ({ button: 0, pointerId: 1, clientX: n * 10 + 5, clientY: 100, shiftKey: false, target: { closest: (what: string) => (what === '[data-from]' ? null : null) }, ...more }) as unknown as PointerEvent
  const chosen = () => made.selected.value.map((token) => token.start)
  return { made, page, clicked, tokens, at, chosen }
}

beforeEach(() => painted.clear())

describe('selecting words', () => {
  it('takes what is clicked, and plays from there', () => {
    const { made, at, chosen, clicked, tokens } = selection()
    made.pointer.pointerdown(at(3))
    made.pointer.pointerup(at(3))
    expect(chosen()).toEqual([3])
    expect(clicked).toHaveBeenCalledExactlyOnceWith(tokens.value[3])
  })

  it('takes what is dragged over, in either direction, and plays nothing', () => {
    const { made, at, chosen, clicked } = selection()
    made.pointer.pointerdown(at(6))
    made.pointer.pointermove(at(2))
    made.pointer.pointerup(at(2))
    expect(chosen()).toEqual([2, 3, 4, 5, 6])
    expect(clicked).not.toHaveBeenCalled()
  })

  it('goes on with Shift from where it began', () => {
    const { made, at, chosen } = selection()
    made.select(4)
    made.pointer.pointerdown(at(7, { shiftKey: true }))
    made.pointer.pointerup(at(7, { shiftKey: true }))
    expect(chosen()).toEqual([4, 5, 6, 7])
  })

  it('moves by words, and no further than there are any', () => {
    const { made, chosen, page } = selection()
    made.move(1, false)
    expect(chosen()).toEqual([0])
    made.select(8)
    made.move(1, true)
    made.move(1, true)
    expect(chosen()).toEqual([8, 9])
    expect(page.elements[9]!.scrollIntoView).toHaveBeenCalled()
  })

  it('is painted, and forgotten when there are other words', async () => {
    const { made, tokens, chosen } = selection()
    made.select(2, 4)
    await nextTick()
    expect(painted.get('selected')).toMatchObject({ range: { a: 2, b: 4 } })
    tokens.value = tokens.value.slice(0, 5)
    await nextTick()
    expect(chosen()).toEqual([])
    await nextTick()
    expect(painted.has('selected')).toBe(false)
  })

  it('is dragged to another place, never into itself', () => {
    const drop = vi.fn()
    const { made, at, chosen } = selection({ drop })
    made.select(2, 4)
    made.pointer.pointerdown(at(3))
    made.pointer.pointermove(at(4))
    made.pointer.pointerup(at(4))
    expect(drop).not.toHaveBeenCalled()
    made.pointer.pointerdown(at(3))
    made.pointer.pointermove(at(8))
    expect(painted.get('drop')).toMatchObject({ range: { a: 8, b: 8 } })
    made.pointer.pointerup(at(8))
    expect(drop).toHaveBeenCalledExactlyOnceWith(8)
    expect(chosen()).toEqual([2, 3, 4])
  })

  it('keeps what it has when the pointer is taken away', () => {
    const drop = vi.fn()
    const { made, at, chosen } = selection({ drop })
    made.select(2, 4)
    made.pointer.pointerdown(at(3))
    made.pointer.pointermove(at(8))
    made.pointer.pointercancel()
    made.pointer.pointerup(at(8))
    expect(drop).not.toHaveBeenCalled()
    expect(chosen()).toEqual([2, 3, 4])
  })

  it('leaves other buttons, and fields, to themselves', () => {
    const { made, at, chosen } = selection()
    made.pointer.pointerdown(at(3, { button: 2 }))
    made.pointer.pointerup(at(3, { button: 2 }))
    made.pointer.pointerdown(at(4, { target: { closest: (what: string) => (what.startsWith('input') ? {} : null) } as unknown as EventTarget }))
    made.pointer.pointerup(at(4))
    expect(chosen()).toEqual([])
  })
})
