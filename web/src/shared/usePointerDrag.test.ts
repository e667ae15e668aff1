import { describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { usePointerDrag } from './usePointerDrag'

const field = { blur: vi.fn() } // what was written in before
vi.stubGlobal('document', { activeElement: field })

/** An element that only knows who listens to it. */
class Handle {
  readonly heard = new Map<string, (event: unknown) => void>()
  setPointerCapture = vi.fn()
  focus = vi.fn()
  addEventListener(name: string, listener: (event: unknown) => void) { this.heard.set(name, listener) }
  removeEventListener(name: string) { this.heard.delete(name) }
  say(name: string, event: unknown = {}) { this.heard.get(name)?.(event) }
}

function begun() {
  const handle = new Handle(), move = vi.fn(), end = vi.fn(), scope = effectScope()
  const drag = scope.run(() => usePointerDrag())!
  const press = () => drag({ currentTarget: handle, pointerId: 7 } as unknown as PointerEvent, move, end)
  press()
  return { handle, move, end, scope, press }
}

describe('dragging', () => {
  it('follows the pointer until it is let go of, and then no more', () => {
    const { handle, move, end } = begun()
    expect(handle.setPointerCapture).toHaveBeenCalledWith(7)
    expect(field.blur).toHaveBeenCalled() // it is left, so that keys are those of the page
    handle.say('pointermove', { clientX: 3 })
    expect(move).toHaveBeenCalledExactlyOnceWith({ clientX: 3 })
    handle.say('pointerup')
    expect(end).toHaveBeenCalledExactlyOnceWith(true)
    expect(handle.heard.size).toBe(0)
  })

  it('keeps nothing when the pointer is taken away', () => {
    const { handle, end } = begun()
    handle.say('pointercancel')
    expect(end).toHaveBeenCalledExactlyOnceWith(false)
    expect(handle.heard.size).toBe(0)
  })

  it('ends with what it drags, and when another one begins', () => {
    const { handle, end, scope, press } = begun()
    press()
    expect(end).toHaveBeenCalledExactlyOnceWith(false)
    scope.stop()
    expect(end).toHaveBeenCalledTimes(2)
    expect(handle.heard.size).toBe(0)
  })
})
