import type { Doc } from '@/document/useDocument'
import { placeAt, type Plan } from '@/player/timeline'

/**
 * The part of a recording's picture that fills the stage: its middle and its size, in shares of the whole; and the `box`
 * in which the picture stands, in shares of the stage.
 */
export interface Seen { across: number; down: number; wide: number; high: number; box: Box }
export interface Box { x: number; y: number; width: number; height: number }

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
    box: {
      x: (place.x - place.width / 2) / plan.width,
      y: (place.y - (scale * layer.crop.height) / 2) / plan.height,
      width: place.width / plan.width,
      height: (scale * layer.crop.height) / plan.height,
    },
  }
}

/** The limits of a field, as the core describes them. */
export interface Limits { minimum?: number; maximum?: number; snaps?: number[]; snaps_within?: number }

/** A value within its limits. */
export const within = (value: number, { minimum = -Infinity, maximum = Infinity }: Limits = {}, steps = 1000) =>
  Math.round(Math.min(Math.max(value, minimum), maximum) * steps) / steps

/** A value within its limits, drawn to a line that it or its edges are near to; and that line. */
export function snapped(value: number, limits: Limits = {}, edges: Edge[] = []): { at: number; line: number | null } {
  const lines = [...(limits.snaps ?? []).map((line) => ({ at: line, line })), ...edges]
  const near = lines.find((each) => Math.abs(each.at - value) < (limits.snaps_within ?? 0))
  return { at: within(near?.at ?? value, limits), line: near?.line ?? null }
}

/** A line that something's edge may stand on: where its middle is then, and where the line is. */
export interface Edge { at: number; line: number }

/** The lines on which the edges of something of a size may stand: those of the safe area, from one to the other. */
export const edgesOf = (size: number, [from, to]: [number, number]): Edge[] => [{ at: from + size / 2, line: from }, { at: to - size / 2, line: to }]

/** What is said while a layer is there. */
export function saidOver(doc: Doc, layer: string): string {
  const bar = doc.bars.find((each) => each.layer === layer)
  if (bar?.start == null || bar.end == null) return ''
  return (doc.plan.words ?? []).filter((word) => word.start < bar.end! && word.end > bar.start!).map((word) => word.text).join(' ')
}

/** What else stands on screen where a box is, while a layer is there; "" for nothing. */
export function overlapping(doc: Doc, layer: string, { left, top, width, height }: NonNullable<Doc['bars'][number]['box']>): string {
  const own = doc.bars.find((each) => each.layer === layer)
  const met = doc.bars.find(({ layer: other, box, start, end }) => box && other !== layer
    && (start ?? 0) < (own?.end ?? 0) && (end ?? 0) > (own?.start ?? 0)
    && box.left < left + width && left < box.left + box.width && box.top < top + height && top < box.top + box.height)
  return met ? `“${met.label}”` : ''
}
