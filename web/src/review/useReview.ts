import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'

export type Item = Schemas['ReviewItemOut']
export type Comment = Schemas['CommentOut']
export type Saying = Omit<Schemas['Saying'], 'name' | 'version'>

const FRESH = 20_000 // ms after which it is asked whether somebody else has said something

/** What is under a link, for somebody without an account; `name` is what they call themselves, kept in their browser. */
export function useReview(token: Ref<string>) {
  const client = useQueryClient()
  const name = useLocalStorage('hovvet-reviewer', '')
  const query = useQuery({
    queryKey: ['review', token],
    queryFn: () => got(api.GET('/api/review/{token}', { params: { path: { token: token.value } } })),
    refetchInterval: FRESH,
    retry: false,
  })
  const again = () => client.invalidateQueries({ queryKey: ['review', token.value] })
  const path = (item: Item) => ({ path: { token: token.value, item_id: item.id } })
  const then = async (work: Promise<unknown>) => {
    await work
    await again()
  }

  return {
    name,
    review: computed(() => query.data.value ?? null),
    error: query.error,
    unlock: (password: string) => then(got(api.POST('/api/review/{token}/password', { params: { path: { token: token.value } }, body: { password } }))),
    say: (item: Item, saying: Saying) => then(got(api.POST('/api/review/{token}/items/{item_id}/comments', { params: path(item), body: { ...saying, name: name.value, version: item.version } }))),
    resolve: (item: Item, comment: Comment, resolved: boolean) =>
      then(got(api.POST('/api/review/{token}/items/{item_id}/comments/{comment_id}/resolved', { params: { path: { ...path(item).path, comment_id: comment.id } }, body: { name: name.value, resolved } }))),
    judge: (item: Item, says: Schemas['Judging']['says']) => then(got(api.POST('/api/review/{token}/items/{item_id}/verdict', { params: path(item), body: { name: name.value, says, version: item.version } }))),
    film: (item: Item, save = false) => `/api/review/${token.value}/items/${item.id}/film${save ? '?save=true' : `?v=${item.version}`}`,
    captions: (item: Item) => `/api/review/${token.value}/items/${item.id}/captions.vtt?v=${item.version}`,
  }
}
