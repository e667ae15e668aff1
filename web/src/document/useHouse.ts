import { api, got, type Schemas } from '@/api/client'
import type { Doc, useDocument } from './useDocument'
import { useListed } from '@/shared/useListed'

export type House = Schemas['HouseOut']

/** The house styles of the workspace. */
export function useHouse() {
  const { items, after } = useListed('houses', () => got(api.GET('/api/house')))
  return {
    houses: items,
    keep: (clip: string, name: string, naming: string) => after(got(api.POST('/api/house', { body: { clip, name, naming } }))),
    keepAs: (clip: string, { key, name, naming }: House) => after(got(api.PUT('/api/house/{key}', { params: { path: { key } }, body: { clip, name, naming } }))),
    forShow: (clip: string, { key }: House, on: boolean) => after(got(api.PUT('/api/house/{key}/show', { params: { path: { key } }, body: { clip, on } }))),
    bringIn(file: File) {
      const body = new FormData()
      body.append('file', file)
      return after(got(api.POST('/api/house/file', { body: body as never, bodySerializer: () => body })))
    },
    remove: ({ key }: House) => after(got(api.DELETE('/api/house/{key}', { params: { path: { key } } }))),
  }
}

/** The house style that a clip wears, where it has become another one since. */
export const newerOf = (doc: Doc | null, houses: House[]) => houses.find((each) => each.key === doc?.sheet.house?.key && each.version > (doc?.sheet.house?.version ?? 0))

/** Dress a clip in a house style, as one change. */
export const dressIn = (sheet: ReturnType<typeof useDocument>, house: House) =>
  sheet.made((clip, version, edition) => got(api.POST('/api/house/{key}/clips', { params: { path: { key: house.key } }, body: { clip, version, edition } })))
