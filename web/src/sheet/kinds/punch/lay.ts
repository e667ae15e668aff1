import type { WordRef } from '@/document/tokens'
import type { Laying } from '@/sheet/useLaying'

/** A closer view of some words. */
export const layPunch = (laying: Laying, words: [WordRef, WordRef]) => laying.put('punch', words, { kind: 'punch', toward: 'the face' })
