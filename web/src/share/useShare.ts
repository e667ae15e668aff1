import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { onTop } from '@/shared/onTop'
import { tellError } from '@/shared/tell'

export type SharePage = Schemas['SharePageOut']

/** The share pages of a clip: made, changed, deleted. */
export function useShare(document: Ref<string>) {
  const client = useQueryClient()
  const query = useQuery({
    queryKey: ['shared', document],
    queryFn: () => got(api.GET('/api/documents/{document_id}/shared', { params: { path: { document_id: document.value } } })),
  })
  async function then<T>(work: Promise<T>): Promise<T | null> {
    const done = await work.catch((error) => { tellError(error); return null })
    await client.invalidateQueries({ queryKey: ['shared', document.value] })
    return done
  }
  const reread = async (page: SharePage) => (await query.refetch()).data?.find((each) => each.id === page.id)
  const path = (page: SharePage) => ({ path: { page_id: page.id } })

  return {
    pages: computed(() => query.data.value ?? []),
    make: (edition: string) => then(got(api.POST('/api/documents/{document_id}/editions/{edition}/shared', { params: { path: { document_id: document.value, edition } } }))),
    change: (page: SharePage, change: Omit<Schemas['SharePageChange'], 'version'>) =>
      then(onTop(page, reread, (version) => got(api.PATCH('/api/shared/{page_id}', { params: path(page), body: { version, ...change } })))),
    newest: (page: SharePage) => then(onTop(page, reread, (version) => got(api.POST('/api/shared/{page_id}/newest', { params: path(page), body: { version } })))),
    remove: (page: SharePage) => then(got(api.DELETE('/api/shared/{page_id}', { params: path(page) }))),
  }
}
