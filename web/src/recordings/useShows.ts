import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { api, got, type Schemas } from '@/api/client'
import { onTop } from '@/shared/onTop'

export type Show = Schemas['ShowOut']

/** The shows of the workspace, and changing them. */
export function useShows() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['shows'], queryFn: () => got(api.GET('/api/shows')) })

  async function after<T>(work: Promise<T>): Promise<T> {
    const result = await work
    await client.invalidateQueries({ queryKey: ['shows'] })
    return result
  }

  const reread = async (show: Show) => (await query.refetch()).data?.find((each) => each.id === show.id)

  return {
    query,
    refresh: () => client.invalidateQueries({ queryKey: ['shows'] }),
    add: (name: string) => after(got(api.POST('/api/shows', { body: { name } }))),
    change: (show: Show, change: Omit<Schemas['ShowChange'], 'version'>) =>
      after(onTop(show, reread, (version) => got(api.PATCH('/api/shows/{show_id}', { params: { path: { show_id: show.id } }, body: { version, ...change } })))),
    remove: (show: Show) => after(got(api.DELETE('/api/shows/{show_id}', { params: { path: { show_id: show.id } } }))),
  }
}
