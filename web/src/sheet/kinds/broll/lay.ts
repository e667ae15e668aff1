import type { WordRef } from '@/document/tokens'
import type { Doc } from '@/document/useDocument'
import type { Laying } from '@/sheet/useLaying'

/** Show something over some words, or else over those that are selected, where its settings are opened. */
export const layBroll = (laying: Laying, media: string, words?: [WordRef, WordRef]) =>
  words ? laying.put('broll', words, { kind: 'broll', media }) : laying.lay({ kind: 'broll', over: 'words', sets: { media } })

/** All that is shown in a clip. */
export const shownIn = (doc: Doc) => (doc.sheet.layers ?? []).flatMap((each) => ('media' in each.content && each.content.media ? [each.content.media] : []))
