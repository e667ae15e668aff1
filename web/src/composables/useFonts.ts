import { api, got } from '@/api/client'
import { useListed } from './useListed'

/** Where the file of an asset is. */
export const assetFile = (key: string) => `/api/assets/${key}/file`

/** The fonts that the workspace has brought in. */
export function useFonts() {
  const { items, after } = useListed('fonts', () => got(api.GET('/api/assets', { params: { query: { kind: 'font' } } })))
  return {
    fonts: items,
    bringIn(file: File) {
      const body = new FormData()
      body.append('file', file)
      return after(got(api.POST('/api/assets/fonts', { body: body as never, bodySerializer: () => body })))
    },
    remove: (key: string) => after(got(api.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: key } } }))),
  }
}
