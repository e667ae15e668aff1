import { ElMessageBox } from 'element-plus'
import type { Ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, got } from '@/api/client'
import { tell, tellError } from '@/shared/tell'
import { sureToDelete } from '@/shared/ask'
import type { useDocument } from '@/document/useDocument'

/** What is done with a clip as a whole. `home` is the recording that it began with. */
export function useClip(id: Ref<string>, sheet: ReturnType<typeof useDocument>, home: Ref<{ id: string } | null>) {
  const router = useRouter()
  const path = () => ({ params: { path: { document_id: id.value } } })

  async function copy() {
    try {
      const made = await got(api.POST('/api/documents/{document_id}/copy', path()))
      tell('This is the copy.')
      await router.push({ name: 'sheet', params: { id: made.id } })
    } catch (error) {
      tellError(error)
    }
  }

  async function rename() {
    const answer = await ElMessageBox.prompt('Title', 'Rename clip', {
      inputValue: sheet.doc.value?.title,
      inputPattern: /\S/,
      inputErrorMessage: 'A clip needs a title.',
      confirmButtonText: 'Rename',
      cancelButtonText: 'Cancel',
    }).catch(() => null)
    if (answer) await sheet.rename((answer as { value: string }).value.trim())
  }

  async function remove() {
    if (!(await sureToDelete(`Delete “${sheet.doc.value?.title}”?`, 'Its exports go too, and this cannot be undone. Its recordings and their cuts stay.'))) return
    try {
      await got(api.DELETE('/api/documents/{document_id}', path()))
      await (home.value ? router.push({ name: 'desk', params: { id: home.value.id } }) : router.push({ name: 'recordings' }))
    } catch (error) {
      tellError(error)
    }
  }

  return { copy, rename, remove }
}
