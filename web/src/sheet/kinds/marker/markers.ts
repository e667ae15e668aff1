import { tell } from '@/shared/tell'
import { fps } from '@/player/timeline'
import type { Schemas } from '@/api/client'
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

type Word = Schemas['SaidWord']

/** Note at a word of a finished file what is to be done there. */
export const markAt = ({ ask, doc }: SheetPage, { ref }: Word, note: string) =>
  ref ? ask({ ask: 'lay', content: { kind: 'marker', note, sort: 'to do' }, layer: null, named: null, edition: doc.value?.edition ?? null, first: ref, last: ref }) : Promise.resolve()

/** Show a word of a finished file where it stands on the sheet now. */
export function goToWord({ doc, player, close }: SheetPage, { ref, text }: Word) {
  const token = doc.value?.rows.flatMap((row) => row.tokens).find((each) => each.origin === ref?.origin && each.word?.id === ref?.word)
  if (token?.at == null) return tell(`“${text}” is no longer in the clip.`)
  close()
  player.show(token.at + 0.01)
}
