import { placeAt, type Plan } from '@/player/timeline'

/** The part of a recording's picture that fills the stage: its middle and its size, in shares of the whole. */
export interface Seen { across: number; down: number; wide: number; high: number }

/** What is seen of a recording of so many pixels at a frame; undefined where no picture of one is. */
export function seenAt(plan: Plan, frame: number, sizeOf: (media: string) => { width: number; height: number } | undefined): Seen | undefined {
  const layer = (plan.picture ?? []).findLast((each) => each.source.type === 'video' && each.first <= frame && frame < each.last)
  if (!layer?.crop || layer.source.type !== 'video') return
  const size = sizeOf(layer.source.media)
  if (!size?.width) return
  const place = placeAt(layer.place ?? [], frame)
  const scale = place.width / layer.crop.width // output pixels of one of the source
  return {
    across: (layer.crop.x + layer.crop.width / 2 + (plan.width / 2 - place.x) / scale) / size.width,
    down: (layer.crop.y + layer.crop.height / 2 + (plan.height / 2 - place.y) / scale) / size.height,
    wide: plan.width / scale / size.width,
    high: plan.height / scale / size.height,
  }
}
