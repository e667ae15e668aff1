import { computed, ref, watch, type Ref } from 'vue'
import type { Token } from './tokens'

interface Options {
  mounted?: () => [number, number] // the first and last token on the page, when not all are
  reveal?: (n: number) => void // brings a token onto the page
  name?: string // of its highlight, where there are two selections on a page
  drop?: (n: number) => void // what is selected was dragged before this token; without it, it cannot be dragged
}

/**
 * A selection of tokens, held as a pair of places and painted with the CSS
 * highlight API, so that selecting changes no element. Elements carry `data-t`.
 */
export function useSelection(
  page: Ref<HTMLElement | null>, tokens: Ref<Token[]>, onClick: (token: Token) => void, options: Options = {},
) {
  const anchor = ref(-1)
  const head = ref(-1)
  let dragged = false
  let pressed = -1
  const making = ref(false) // while the pointer is down
  let lifted: 'no' | 'held' | 'moving' = 'no' // what is selected is being dragged to another place

  const first = computed(() => Math.min(anchor.value, head.value))
  const last = computed(() => Math.max(anchor.value, head.value))
  const selected = computed(() => (first.value < 0 ? [] : tokens.value.slice(first.value, last.value + 1)))

  function element(n: number) {
    return page.value?.querySelector<HTMLElement>(`[data-t="${n}"]`) ?? null
  }

  function rangeOver(from: number, to: number): Range | null {
    const [first, last] = options.mounted?.() ?? [0, Infinity]
    if (to < first || from > last) return null
    const a = element(Math.max(from, first))
    const b = element(Math.min(to, last))
    if (!a || !b) return null
    const range = new Range()
    range.setStartBefore(a)
    range.setEndAfter(b)
    return range
  }

  function paint(name: string, ...places: [number, number][]) {
    const ranges = places.flatMap(([from, to]) => (from >= 0 ? (rangeOver(from, to) ?? []) : []))
    if (ranges.length) CSS.highlights.set(name, new Highlight(...ranges))
    else CSS.highlights.delete(name)
  }

  function repaint() {
    paint(options.name ?? 'selected', [first.value, last.value])
  }

  function select(a: number, b = a) {
    anchor.value = a
    head.value = b
  }

  function clear() {
    select(-1)
  }

  function all() {
    if (tokens.value.length) select(0, tokens.value.length - 1)
  }

  /** Move the cursor by words and pauses; `extend` keeps the other end. */
  function move(step: number, extend: boolean) {
    const next = Math.min(Math.max((head.value < 0 ? 0 : head.value + step), 0), tokens.value.length - 1)
    head.value = next
    if (!extend || anchor.value < 0) anchor.value = next
    if (options.reveal) options.reveal(next)
    else element(next)?.scrollIntoView({ block: 'nearest' })
  }

  /** The token a line above or below the cursor. */
  function lineStep(down: boolean): number {
    const box = element(head.value)?.getBoundingClientRect()
    if (!box) return down ? 8 : -8
    for (let line = 1; line <= 4; line++) {
      const y = (box.top + box.bottom) / 2 + (down ? 1 : -1) * line * 16
      for (const x of [box.left + 2, box.left - 40, box.left + 60, box.left - 120]) {
        const n = tokenAtPoint(x, y)
        if (n >= 0 && Math.abs(element(n)!.getBoundingClientRect().top - box.top) > 8) return n - head.value
      }
    }
    return down ? 8 : -8
  }

  function tokenUnder(event: PointerEvent): number {
    return tokenAtPoint(event.clientX, event.clientY)
  }

  function tokenAtPoint(x: number, y: number): number {
    const under = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-t]')
    return under && page.value?.contains(under) ? Number(under.dataset.t) : -1
  }

  /** While dragging beyond the page, go on with it. */
  function scrollAtEdge(y: number) {
    const frame = page.value?.getBoundingClientRect()
    if (!frame) return
    if (y < frame.top + 16) page.value!.scrollBy(0, -24)
    else if (y > frame.bottom - 16) page.value!.scrollBy(0, 24)
  }

  const pointer = {
    pointerdown(event: PointerEvent) {
      if (event.button !== 0 || (event.target as HTMLElement).closest('input, button, textarea')) return
      const handle = options.drop && (event.target as HTMLElement).closest<HTMLElement>('[data-from]')
      if (handle) {
        select(Number(handle.dataset.from), Number(handle.dataset.to))
        page.value?.setPointerCapture(event.pointerId)
        lifted = 'held'
        return
      }
      const n = tokenUnder(event)
      if (n < 0) return
      page.value?.setPointerCapture(event.pointerId)
      making.value = true
      dragged = false
      pressed = n
      lifted = options.drop && !event.shiftKey && last.value > first.value && n >= first.value && n <= last.value ? 'held' : 'no'
      if (event.shiftKey && anchor.value >= 0) head.value = n
    },
    pointermove(event: PointerEvent) {
      if (lifted !== 'no') {
        scrollAtEdge(event.clientY)
        const n = tokenUnder(event)
        if (n !== pressed || lifted === 'moving') lifted = 'moving'
        paint('drop', [n >= first.value && n <= last.value ? -1 : n, n])
        return
      }
      if (pressed < 0) return
      scrollAtEdge(event.clientY)
      const n = tokenUnder(event)
      if (n < 0 || (n === pressed && !dragged)) return
      dragged = true
      select(pressed, n)
    },
    pointerup(event: PointerEvent) {
      making.value = false
      if (lifted !== 'no') {
        const n = tokenUnder(event)
        const moved = lifted === 'moving'
        lifted = 'no'
        paint('drop', [-1, -1])
        if (moved) {
          pressed = -1
          if (n >= 0 && (n < first.value || n > last.value)) options.drop?.(n)
          return
        }
      }
      if (pressed >= 0 && !dragged && !event.shiftKey) {
        select(pressed)
        onClick(tokens.value[pressed]!)
      }
      pressed = -1
    },
    pointercancel() {
      making.value = false
      pressed = -1
      lifted = 'no'
      paint('drop', [-1, -1])
    },
  }

  watch([first, last], repaint, { flush: 'post' })
  watch(tokens, (now, before) => {
    if (now.length !== before.length) clear()
  })

  return { first, last, head, making, selected, select, all, clear, move, lineStep, paint, repaint, pointer, element }
}
