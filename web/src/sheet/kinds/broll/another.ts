import type { Doc } from '@/document/useDocument'
import type { SheetPage } from '@/sheet/useSheetPage'

const SHOWN = ['broll', 'slide']

/** The layer of a picture or slide: the one whose settings are open, or else the one that is seen at a time (seconds). */
export function shownAt(doc: Doc, time: number, open: string | null): string | null {
  const shown = new Set((doc.sheet.layers ?? []).filter((each) => SHOWN.includes(each.content.kind)).map((each) => each.id))
  if (open && shown.has(open)) return open
  const bar = doc.bars.findLast((each) => shown.has(each.layer) && each.start !== null && each.end !== null && each.start <= time + 1e-3 && time < each.end)
  return bar?.layer ?? null
}

export const pictureAt = (page: SheetPage): string | null =>
  page.doc.value && shownAt(page.doc.value, page.player.time.value, page.drawer.value === 'layer' ? page.laying.layer.value : null)

/** Show what fits its words next best in its place. */
export async function anotherPicture(page: SheetPage) {
  const layer = pictureAt(page)
  if (layer) await page.sheet.anotherPicture(layer)
}
