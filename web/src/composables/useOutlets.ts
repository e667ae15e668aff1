import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'

export type Outlet = Schemas['Outlet']
export type OutletWanted = Schemas['OutletWanted']

/** The outlets of the workspace; those of its own can be added, changed and deleted. */
export function useOutlets() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['outlets'], queryFn: () => got(api.GET('/api/outlets')) })
  const after = async <T>(work: Promise<T>) => {
    const done = await work
    await client.invalidateQueries({ queryKey: ['outlets'] })
    return done
  }
  return {
    outlets: computed(() => query.data.value ?? []),
    add: (body: OutletWanted) => after(got(api.POST('/api/outlets', { body }))),
    change: (key: string, body: OutletWanted) => after(got(api.PUT('/api/outlets/{key}', { params: { path: { key } }, body }))),
    remove: (key: string) => after(got(api.DELETE('/api/outlets/{key}', { params: { path: { key } } }))),
  }
}
