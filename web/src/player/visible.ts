import { isClear, placeAt, valueAt, type PictureLayer, type Place, type Plan } from './timeline'

/** The nearest even pixel. */
export const even = (value: number) => Math.floor(value / 2 + 0.5) * 2

/** The rectangle that a layer covers before it is turned: even, as the export draws it, while it stands still. */
export function boxOf(place: Place, crop: { width: number; height: number }, moves = false) {
  const height = (place.width * crop.height) / crop.width
  const edges = [place.x - place.width / 2, place.y - height / 2, place.x + place.width / 2, place.y + height / 2]
  const [x, y, right, bottom] = (moves || place.turn ? edges : edges.map(even)) as [number, number, number, number]
  return { x, y, width: right - x, height: bottom - y }
}

/** Whether nothing behind a layer is seen at a frame. */
export function covers(plan: Plan, layer: PictureLayer, frame: number): boolean {
  if (valueAt(layer.opacity ?? [], frame) < 1) return false
  if (layer.backdrop) return true
  if (layer.window || isClear(layer)) return false
  if (layer.source.type === 'fill') return true
  const place = placeAt(layer.place ?? [], frame)
  const { x, y, width, height } = boxOf(place, layer.crop!)
  return !place.turn && x <= 0 && y <= 0 && x + width >= plan.width && y + height >= plan.height
}

/** The layers of a plan seen at a frame, from the topmost that covers all upwards. */
export function visibleAt(plan: Plan, frame: number): PictureLayer[] {
  let shown: PictureLayer[] = []
  for (const layer of plan.picture ?? []) {
    if (layer.first > frame || layer.last <= frame || valueAt(layer.opacity ?? [], frame) <= 0) continue
    if (covers(plan, layer, frame)) shown = []
    shown.push(layer)
  }
  return shown
}
