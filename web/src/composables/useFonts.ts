import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got } from '@/api/client'

/** Where the file of an asset is. */
export const assetFile = (key: string) => `/api/assets/${key}/file`

/** The fonts that the workspace has brought in. */
export function useFonts() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['fonts'], queryFn: () => got(api.GET('/api/assets', { params: { query: { kind: 'font' } } })) })
  const after = async <T>(work: Promise<T>) => {
    const done = await work
    await client.invalidateQueries({ queryKey: ['fonts'] })
    return done
  }
  return {
    fonts: computed(() => query.data.value ?? []),
    bringIn(file: File) {
      const body = new FormData()
      body.append('file', file)
      return after(got(api.POST('/api/assets/fonts', { body: body as never, bodySerializer: () => body })))
    },
    remove: (key: string) => after(got(api.DELETE('/api/assets/{asset_id}', { params: { path: { asset_id: key } } }))),
  }
}
