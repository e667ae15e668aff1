import { tryOnScopeDispose } from '@vueuse/core'

type Move = (now: PointerEvent) => void

/**
 * Dragging with the pointer: from a press on, `move` is told where it is, and `end` whether it was let go of (true), or taken
 * away or gone with what it dragged (false: nothing is to be kept then).
 */
export function usePointerDrag() {
  let over: ((kept: boolean) => void) | null = null
  tryOnScopeDispose(() => over?.(false))

  return function drag(press: PointerEvent, move: Move, end: (kept: boolean) => void) {
    over?.(false)
    const handle = press.currentTarget as HTMLElement
    const released = () => over?.(true)
    const cancelled = () => over?.(false)
    over = (kept) => {
      over = null
      handle.removeEventListener('pointermove', move)
      handle.removeEventListener('pointerup', released)
      handle.removeEventListener('pointercancel', cancelled)
      end(kept)
    }
    handle.setPointerCapture(press.pointerId)
    // A field that was written in is left: what is dragged is undone by the keys of the page.
    handle.focus({ preventScroll: true })
    if (document.activeElement !== handle) (document.activeElement as HTMLElement | null)?.blur()
    handle.addEventListener('pointermove', move)
    handle.addEventListener('pointerup', released)
    handle.addEventListener('pointercancel', cancelled)
  }
}
