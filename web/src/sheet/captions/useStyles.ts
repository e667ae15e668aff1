import { api, got, type Schemas } from '@/api/client'
import { useListed } from '@/shared/useListed'

export type CaptionStyle = Schemas['CaptionStyle']

/** The caption styles that the workspace has made for itself. */
export function useStyles() {
  const { items, after } = useListed('caption-styles', () => got(api.GET('/api/captions/styles')))
  return {
    styles: items,
    add: (body: CaptionStyle) => after(got(api.POST('/api/captions/styles', { body }))),
    change: (key: string, body: CaptionStyle) => after(got(api.PUT('/api/captions/styles/{key}', { params: { path: { key } }, body }))),
    remove: (key: string) => after(got(api.DELETE('/api/captions/styles/{key}', { params: { path: { key } } }))),
  }
}
