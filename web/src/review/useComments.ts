import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import type { Doc } from '@/document/useDocument'
import { tellError } from '@/shared/tell'

export type Comment = Schemas['CommentOut']
export type Link = Schemas['ReviewLinkOut']
type Wanted = Schemas['ReviewWanted']

const FRESH = 20_000 // ms after which it is asked whether somebody has said something

/** What was said of a clip under its review links, and the links. */
export function useComments(doc: Ref<Doc | null>) {
  const client = useQueryClient()
  const id = computed(() => doc.value?.id)
  const key = computed(() => (doc.value ? { id: doc.value.id, edition: doc.value.edition, version: doc.value.version } : null))
  const comments = useQuery({
    queryKey: ['comments', key],
    queryFn: () => got(api.GET('/api/documents/{document_id}/comments', { params: { path: { document_id: key.value!.id }, query: { edition: key.value!.edition } } })),
    enabled: () => !!key.value, refetchInterval: FRESH, placeholderData: (before) => before,
  })
  const links = useQuery({
    queryKey: ['review-links', id],
    queryFn: () => got(api.GET('/api/documents/{document_id}/reviews', { params: { path: { document_id: id.value! } } })),
    enabled: () => !!id.value, refetchInterval: FRESH,
  })
  const refresh = () => Promise.all([client.invalidateQueries({ queryKey: ['comments'] }), client.invalidateQueries({ queryKey: ['review-links'] })])
  async function act<T>(work: Promise<T>): Promise<T | undefined> {
    const done = await work.catch(tellError)
    await refresh()
    return done as T | undefined
  }
  const all = computed(() => comments.data.value ?? [])

  return {
    open: computed(() => all.value.filter((each) => !each.resolved)),
    done: computed(() => all.value.filter((each) => each.resolved)),
    links: computed(() => links.data.value ?? []),
    refresh,
    share: (wanted: Wanted) => act(got(api.POST('/api/documents/{document_id}/reviews', { params: { path: { document_id: id.value! } }, body: wanted }))),
    change: (link: Link, body: Schemas['ReviewChange']) => act(got(api.PATCH('/api/reviews/{link_id}', { params: { path: { link_id: link.id } }, body }))),
    remove: (link: Link) => act(got(api.DELETE('/api/reviews/{link_id}', { params: { path: { link_id: link.id } } }))),
    publish: (link: Link) => act(got(api.POST('/api/reviews/{link_id}/versions', { params: { path: { link_id: link.id } } }))),
    answer: (comment: Comment, text: string) => act(got(api.POST('/api/comments/{comment_id}/answers', { params: { path: { comment_id: comment.id } }, body: { text } }))),
    resolve: (comment: Comment, resolved: boolean) => act(got(api.POST('/api/comments/{comment_id}/resolved', { params: { path: { comment_id: comment.id } }, body: { resolved } }))),
  }
}

export type Comments = ReturnType<typeof useComments>
