import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'

export type CaptionStyle = Schemas['CaptionStyle']

/** The caption styles that the workspace has made for itself. */
export function useStyles() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['caption-styles'], queryFn: () => got(api.GET('/api/captions/styles')) })
  const after = async <T>(work: Promise<T>) => {
    const done = await work
    await client.invalidateQueries({ queryKey: ['caption-styles'] })
    return done
  }
  return {
    styles: computed(() => query.data.value ?? []),
    add: (body: CaptionStyle) => after(got(api.POST('/api/captions/styles', { body }))),
    change: (key: string, body: CaptionStyle) => after(got(api.PUT('/api/captions/styles/{key}', { params: { path: { key } }, body }))),
    remove: (key: string) => after(got(api.DELETE('/api/captions/styles/{key}', { params: { path: { key } } }))),
  }
}
