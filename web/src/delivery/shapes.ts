import { api, got, type Schemas } from '@/api/client'
import { tell } from '@/shared/tell'
import type { Doc, useDocument } from '@/document/useDocument'

export type Shape = Schemas['Shape']

/** Where a picture of a clip is, as it would be in a shape: dressed in a house style, after a part of its length (0 to 1). */
export function pictureOf(doc: Doc, { outlet, dressing }: Shape, house: string, part: number): string {
  const asked = new URLSearchParams({ outlet, dressing: dressing ?? 'dressed', house, part: part.toFixed(3), version: String(doc.version) })
  return `/api/documents/${doc.id}/shapes/picture?${asked.toString()}`
}

/** Keep shapes as editions, dressed in a house style where one is named, as one change. */
export async function keepShapes(sheet: ReturnType<typeof useDocument>, shapes: Shape[], house: string) {
  const before = sheet.doc.value?.editions.length ?? 0
  await sheet.made((document_id, version, edition) => got(api.POST('/api/documents/{document_id}/shapes', { params: { path: { document_id } }, body: { version, shapes, house, edition } })))
  const now = sheet.doc.value?.editions.length ?? before
  tell(now > before ? `This clip is made in ${now} editions now.` : 'It was made in these shapes already.')
}
