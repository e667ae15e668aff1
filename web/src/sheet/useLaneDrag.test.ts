import { describe, expect, it, vi } from 'vitest'
import { effectScope, ref } from 'vue'
import type { Token } from '@/document/tokens'
import type { Bar, Line } from './bars'
import { useLaneDrag } from './useLaneDrag'

vi.stubGlobal('document', { activeElement: null })

const token = (at: number) => ({ start: 0, end: 1, placed: { at, left: null } }) as unknown as Token
const lines: Line[] = [0, 1, 2].map((row) => ({ first: row * 4, tokens: [0, 1, 2, 3].map((n) => token(row * 4 + n)) }))
const bar = (first: number | null, last: number | null) => ({ layer: 'l1', first, last }) as Bar

/** Three rows, a hundred pixels high each. */
function dragging() {
  const heard = new Map<string, (event: unknown) => void>()
  const page = { children: [0, 1, 2].map((n) => ({ getBoundingClientRect: () => ({ top: n * 100, bottom: n * 100 + 100, height: 100 }) })) }
  const shown = vi.fn(), done = vi.fn()
  const { grab } = effectScope().run(() => useLaneDrag(ref(page as unknown as HTMLElement), ref(lines), shown, done))!
  const handle = { setPointerCapture: vi.fn(), focus: vi.fn(), addEventListener: (name: string, listener: (event: unknown) => void) => heard.set(name, listener), removeEventListener: (name: string) => heard.delete(name) }
  const press = { currentTarget: handle, pointerId: 1 } as unknown as PointerEvent
  return { grab, shown, done, press, say: (name: string, y = 0) => heard.get(name)?.({ clientY: y }) }
}

describe('an edge of a bar', () => {
  it('goes where it is dragged, row by row, and lies over those words when it is let go of', () => {
    const { grab, shown, done, press, say } = dragging()
    grab(bar(2, 5), 'last', press)
    say('pointermove', 260)
    expect(shown).toHaveBeenLastCalledWith([2, 10])
    say('pointerup')
    expect(done).toHaveBeenCalledExactlyOnceWith('l1', 2, 10)
    expect(shown).toHaveBeenLastCalledWith(null)
  })

  it('never goes beyond its other edge, nor beyond the rows', () => {
    const { grab, shown, press, say } = dragging()
    grab(bar(2, 5), 'first', press)
    say('pointermove', 290)
    expect(shown).toHaveBeenLastCalledWith([5, 5])
    say('pointermove', -50)
    expect(shown).toHaveBeenLastCalledWith([0, 5])
    grab(bar(2, 5), 'last', press)
    say('pointermove', 900)
    expect(shown).toHaveBeenLastCalledWith([2, 11])
  })

  it('changes nothing where it was not moved, or the pointer was taken away', () => {
    const { grab, done, press, say } = dragging()
    grab(bar(2, 5), 'last', press)
    say('pointerup')
    grab(bar(2, 5), 'last', press)
    say('pointermove', 260)
    say('pointercancel')
    expect(done).not.toHaveBeenCalled()
  })

  it('of what sleeps cannot be grabbed', () => {
    const { grab, shown, press, say } = dragging()
    grab(bar(null, null), 'last', press)
    say('pointermove', 260)
    expect(shown).not.toHaveBeenCalled()
  })
})
