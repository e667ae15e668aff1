import { api, got, type Schemas } from '@/api/client'
import { useListed } from '@/shared/useListed'

export type Outlet = Schemas['Outlet']
export type OutletWanted = Schemas['OutletWanted']

/** The outlets of the workspace; those of its own can be added, changed and deleted. */
export function useOutlets() {
  const { items, after } = useListed('outlets', () => got(api.GET('/api/outlets')))
  return {
    outlets: items,
    add: (body: OutletWanted) => after(got(api.POST('/api/outlets', { body }))),
    change: (key: string, body: OutletWanted) => after(got(api.PUT('/api/outlets/{key}', { params: { path: { key } }, body }))),
    remove: (key: string) => after(got(api.DELETE('/api/outlets/{key}', { params: { path: { key } } }))),
  }
}
