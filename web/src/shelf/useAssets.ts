import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useListed } from '@/shared/useListed'

export type AssetKind = Schemas['AssetOut']['kind']

/** What the workspace has brought in of a kind, but for what is still being fetched. */
export function useAssets(kind: AssetKind) {
  const { items, after } = useListed(`assets-${kind}`, () => got(api.GET('/api/assets', { params: { query: { kind: [kind] } } })))
  return {
    assets: computed(() => items.value.filter((each) => each.ready)),
    bringIn(file: File) {
      const body = new FormData()
      body.append('file', file)
      return after(got(api.POST('/api/assets', { params: { query: { kind } }, body: body as never, bodySerializer: () => body })))
    },
    remove: (key: string) => after(got(api.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: key } } }))),
  }
}
