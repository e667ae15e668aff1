import { api, got, type Schemas } from '@/api/client'
import { useListed } from '@/shared/useListed'

export type NamedLook = Schemas['NamedLook']

/** The looks that the workspace has made for itself. */
export function useLooks() {
  const { items, after } = useListed('looks', () => got(api.GET('/api/colour/looks')))
  return {
    looks: items,
    add: (body: NamedLook) => after(got(api.POST('/api/colour/looks', { body }))),
    remove: (key: string) => after(got(api.DELETE('/api/colour/looks/{key}', { params: { path: { key } } }))),
  }
}
