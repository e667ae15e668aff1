import { ElMessageBox } from 'element-plus'
import { h } from 'vue'
import { api, got } from '@/api/client'
import type { useDocument } from '@/document/useDocument'
import { tell } from '@/shared/tell'

/** Take in a timeline that comes back from another editor, as one change; what it says that is not taken in is listed. */
export async function takeInTimeline(sheet: ReturnType<typeof useDocument>, file: File) {
  await sheet.made(async (document_id, version, edition) => {
    const body = new FormData()
    body.append('file', file)
    body.append('version', String(version))
    body.append('edition', edition ?? '')
    const taken = await got(api.POST('/api/documents/{document_id}/timeline', { params: { path: { document_id } }, body: body as never, bodySerializer: () => body }))
    const what = taken.changed ? 'The cuts are as in that timeline now. Undo takes it back.' : 'The cuts in that timeline are those that you have: nothing was changed.'
    if (!taken.left_out.length) tell(what)
    else void ElMessageBox.alert(h('div', [h('p', what), h('p', 'Not taken in:'), h('ul', taken.left_out.map((each) => h('li', each)))]), 'A timeline from another editor', { confirmButtonText: 'OK' }).catch(() => {})
    return taken.document
  })
}
