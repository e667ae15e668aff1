import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, ApiError, got, type Schemas } from '@/api/client'
import { tellChange, tellError } from '@/shared/tell'

export type Cover = Schemas['CoverOut']
type Wanted = Pick<Cover, 'seconds' | 'text' | 'template'>

/** Where a small picture of a cover is; `version` is that of the clip, so that it is drawn anew when that changes. */
export const pictureOf = (document: string, edition: string, version: number, { seconds, text, template }: Wanted) =>
  `/api/documents/${document}/editions/${edition}/cover/picture?${new URLSearchParams({ seconds: seconds.toFixed(2), text, template, v: String(version) })}`

/** The cover of an edition, kept as it is chosen. */
export function useCover(document: Ref<string>, edition: Ref<string>, version: Ref<number>) {
  const client = useQueryClient()
  const path = () => ({ path: { document_id: document.value, edition: edition.value } })
  const query = useQuery({ queryKey: ['cover', document, edition, version], queryFn: () => got(api.GET('/api/documents/{document_id}/editions/{edition}/cover', { params: path() })) })
  const offered = useQuery({ queryKey: ['cover-frames', document, edition, version], queryFn: () => got(api.GET('/api/documents/{document_id}/editions/{edition}/cover/offered', { params: path() })), staleTime: Infinity, retry: 2 })
  const cover = computed(() => query.data.value ?? null)
  const take = (now: Cover) => client.setQueryData(['cover', document.value, edition.value, version.value], now)

  async function choose(more: Partial<Wanted>, alone = cover.value?.own ?? false, over = cover.value?.version ?? 0) {
    if (!cover.value) return
    const { seconds, text, template } = { ...cover.value, ...more }
    try {
      take(await got(api.PUT('/api/documents/{document_id}/editions/{edition}/cover', { params: path(), body: { seconds, text, template, alone, version: over } })))
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 409) return tellError(error)
      take((error.body as Schemas['NewerCover']).cover)
      tellChange('Somebody else has chosen a cover in the meantime. This is theirs; choose again if you want another one.')
    }
  }

  return {
    cover, choose, offered: computed(() => offered.data.value ?? []), looking: offered.isPending, error: query.error,
    setOwn: async (alone: boolean) => {
      if (alone) return choose({}, true, 0)
      await got(api.DELETE('/api/documents/{document_id}/editions/{edition}/cover', { params: path() })).then(take, tellError)
    },
  }
}
