import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { active } from '@/shared/jobs'

export type Asset = Schemas['AssetOut']
export type StockItem = Schemas['StockItemOut']
export type Licence = Asset['terms']
export type ShelfKind = 'video' | 'picture' | 'sound' | 'sticker'
export const SHELF_KINDS: Record<ShelfKind, string> = { video: 'Films', picture: 'Pictures', sound: 'Music and sounds', sticker: 'Logos and stickers' }
/** One of each. */
export const SHELF_ONE: Record<ShelfKind, string> = { video: 'Film', picture: 'Picture', sound: 'Music or sound', sticker: 'Logo or sticker' }
/** Those that are laid over words to be seen. */
export const SEEN: ShelfKind[] = ['video', 'picture']

const QUIET = 250 // milliseconds after the last letter before it is searched

/** What stands on the Shelf of some kinds and answers a text, best first; asked for again while a film is being prepared. */
export function useShelf(text: Ref<string>, kinds: Ref<ShelfKind[]>) {
  const client = useQueryClient()
  const wanted = refDebounced(text, QUIET)
  const query = useQuery({
    queryKey: ['shelf', wanted, kinds],
    queryFn: () => got(api.GET('/api/assets', { params: { query: { kind: kinds.value, text: wanted.value } } })),
    refetchInterval: (query) => (query.state.data?.some((each) => each.job && active(each.job)) ? 1000 : false),
    placeholderData: (before) => before,
  })
  const changed = async () => {
    await Promise.all(['shelf', 'stock', 'assets-picture', 'assets-sticker'].map((name) => client.invalidateQueries({ queryKey: [name] })))
  }
  return { items: computed(() => query.data.value ?? []), query, changed }
}

/** A page of what the stock library offers. */
export function useStock(text: Ref<string>, kind: Ref<ShelfKind | null>, page: Ref<number>) {
  const wanted = refDebounced(text, QUIET)
  const query = useQuery({
    queryKey: ['stock', wanted, kind, page],
    queryFn: () => got(api.GET('/api/stock', { params: { query: { text: wanted.value, kind: kind.value ?? undefined, page: page.value } } })),
    placeholderData: (before) => before,
  })
  return { items: computed(() => query.data.value?.items ?? []), total: computed(() => query.data.value?.total ?? 0), size: computed(() => query.data.value?.size ?? 1), query }
}

/** Put something of the stock library on the Shelf. */
export const takeStock = (item: StockItem) => got(api.POST('/api/stock/{item_id}', { params: { path: { item_id: item.id } } }))
