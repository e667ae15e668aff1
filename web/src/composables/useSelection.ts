import { computed, ref, watch, type Ref } from 'vue'
import type { Token } from './tokens'

/**
 * A selection of tokens, held as a pair of places and painted with the CSS
 * highlight API, so that selecting changes no element. Elements carry `data-t`.
 */
export function useSelection(page: Ref<HTMLElement | null>, tokens: Ref<Token[]>, onClick: (token: Token) => void) {
  const anchor = ref(-1)
  const head = ref(-1)
  let dragged = false
  let pressed = -1

  const first = computed(() => Math.min(anchor.value, head.value))
  const last = computed(() => Math.max(anchor.value, head.value))
  const selected = computed(() => (first.value < 0 ? [] : tokens.value.slice(first.value, last.value + 1)))

  function element(n: number) {
    return page.value?.querySelector<HTMLElement>(`[data-t="${n}"]`) ?? null
  }

  function rangeOver(from: number, to: number): Range | null {
    const a = element(from)
    const b = element(to)
    if (!a || !b) return null
    const range = new Range()
    range.setStartBefore(a)
    range.setEndAfter(b)
    return range
  }

  function paint(name: string, from: number, to: number) {
    const range = from >= 0 ? rangeOver(from, to) : null
    if (range) CSS.highlights.set(name, new Highlight(range))
    else CSS.highlights.delete(name)
  }

  function repaint() {
    paint('selected', first.value, last.value)
  }

  function select(a: number, b = a) {
    anchor.value = a
    head.value = b
  }

  function clear() {
    select(-1)
  }

  /** Move the cursor by words and pauses; `extend` keeps the other end. */
  function move(step: number, extend: boolean) {
    const next = Math.min(Math.max((head.value < 0 ? 0 : head.value + step), 0), tokens.value.length - 1)
    head.value = next
    if (!extend || anchor.value < 0) anchor.value = next
    element(next)?.scrollIntoView({ block: 'nearest' })
  }

  function tokenUnder(event: PointerEvent): number {
    const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-t]')
    return under && page.value?.contains(under) ? Number(under.dataset.t) : -1
  }

  const pointer = {
    pointerdown(event: PointerEvent) {
      if (event.button !== 0) return
      const n = tokenUnder(event)
      if (n < 0) return
      page.value?.setPointerCapture(event.pointerId)
      dragged = false
      pressed = n
      if (event.shiftKey && anchor.value >= 0) head.value = n
    },
    pointermove(event: PointerEvent) {
      if (pressed < 0) return
      const n = tokenUnder(event)
      if (n < 0 || (n === pressed && !dragged)) return
      dragged = true
      select(pressed, n)
    },
    pointerup(event: PointerEvent) {
      if (pressed >= 0 && !dragged && !event.shiftKey) {
        select(pressed)
        onClick(tokens.value[pressed]!)
      }
      pressed = -1
    },
    pointercancel() {
      pressed = -1
    },
  }

  watch([first, last], repaint, { flush: 'post' })
  watch(tokens, (now, before) => {
    if (now.length !== before.length) clear()
  })

  return { first, last, selected, select, clear, move, paint, repaint, pointer, element }
}
