import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

export type Chapter = Schemas['Chapter']

/** The chapters of a recording, as a person named them, and where there could be more. */
export function useChapters(id: Ref<string>, ready: Ref<boolean>) {
  const client = useQueryClient()
  const path = () => ({ path: { recording_id: id.value } })
  const query = useQuery({
    queryKey: ['chapters', id],
    queryFn: () => got(api.GET('/api/recordings/{recording_id}/chapters', { params: path() })),
    enabled: ready,
  })
  const chapters = computed(() => query.data.value?.chapters ?? [])

  async function set(all: Chapter[]) {
    try {
      client.setQueryData(['chapters', id.value], await got(api.PUT('/api/recordings/{recording_id}/chapters', { params: path(), body: { version: query.data.value!.version, chapters: all } })))
    } catch (error) {
      tellError(error)
      await query.refetch()
    }
  }

  return {
    chapters,
    offered: computed(() => query.data.value?.offered ?? []),
    refetch: query.refetch,
    /** Name the chapter that begins at a time; without a name there is none. */
    name: (start: number, title: string) => set([...chapters.value.filter((each) => each.start !== start), ...(title.trim() ? [{ start, title: title.trim() }] : [])]),
  }
}
