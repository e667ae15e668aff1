import type { Content } from '@/document/useDocument'
import type { SheetPage } from '@/sheet/useSheetPage'

/** A slide of its own before everything, or after it; its settings are opened. */
export async function layCard({ doc, laying, ask }: SheetPage, at: 'beginning' | 'end') {
  const content = { ...laying.defaultsOf('slide'), text: doc.value!.title.slice(0, 160) } as Extract<Content, { kind: 'slide' }>
  await laying.opening(() => ask({ ask: 'add_card', at, seconds: null, content }))
}
