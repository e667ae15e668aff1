import { tell } from '@/shared/tell'
import { fps } from '@/player/timeline'
import type { SheetPage } from '@/sheet/useSheetPage'

/** Go to the next marker of the clip, or the one before, and open it. */
export function toMarker({ plan, player, laying }: SheetPage, step: 1 | -1) {
  const now = plan.value
  if (!now) return
  const at = player.time.value * fps(now)
  const markers = [...(now.markers ?? [])].sort((a, b) => a.first - b.first)
  const next = step > 0 ? markers.find((each) => each.first > at + 0.5) ?? markers[0] : markers.findLast((each) => each.first < at - 0.5) ?? markers.at(-1)
  if (!next) return tell('There is no marker yet. Select words and press M.')
  laying.openLayer(next.layer)
  player.show(next.first / fps(now))
}
