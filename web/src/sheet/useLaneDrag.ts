import { ref, type Ref } from 'vue'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { tokenAtPart, type Bar, type Line } from './bars'

type Edge = 'first' | 'last'

/**
 * Dragging an edge of a bar along the rows: the pointer's place becomes a token. `shown` is told what the bar would lie
 * over, `done` when it is let go of.
 */
export function useLaneDrag(
  page: Ref<HTMLElement | null>, lines: Ref<Line[]>, shown: (range: [number, number] | null) => void,
  done: (layer: string, first: number, last: number) => void,
) {
  const dragging = ref(false)
  const drag = usePointerDrag()

  function tokenAt(y: number): number | null {
    const rows = [...(page.value?.children ?? [])]
    const n = rows.findIndex((row) => y < row.getBoundingClientRect().bottom)
    const at = n < 0 ? rows.length - 1 : n
    const line = lines.value[at]
    if (!line) return null
    const box = rows[at]!.getBoundingClientRect()
    return tokenAtPart(line, Math.min(Math.max((y - box.top) / box.height, 0), 1))
  }

  function grab(bar: Bar, edge: Edge, event: PointerEvent) {
    if (bar.first === null || bar.last === null) return
    let range: [number, number] = [bar.first, bar.last]
    const move = (moved: PointerEvent) => {
      const token = tokenAt(moved.clientY)
      if (token === null) return
      dragging.value = true
      range = edge === 'first' ? [Math.min(token, bar.last!), bar.last!] : [bar.first!, Math.max(token, bar.first!)]
      shown(range)
    }
    drag(event, move, (kept) => {
      shown(null)
      if (kept && dragging.value && (range[0] !== bar.first || range[1] !== bar.last)) done(bar.layer, ...range)
      dragging.value = false
    })
  }

  return { grab }
}
