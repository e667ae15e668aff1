import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, onScopeDispose, ref, watch, type Ref } from 'vue'
import { api, ApiError, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

export type PostText = Schemas['PostOut']
type Post = Required<Schemas['Post']>

const TYPED = 300 // ms after the last letter: then it is kept, and counted

/** The text for the post of an edition, kept as it is typed. `version` is that of the clip: what has to be named follows it. */
export function usePost(document: Ref<string>, edition: Ref<string>, version: Ref<number>) {
  const client = useQueryClient()
  const path = () => ({ path: { document_id: document.value, edition: edition.value } })
  const key = ['post', document, edition, version]
  const query = useQuery({ queryKey: key, queryFn: () => got(api.GET('/api/documents/{document_id}/editions/{edition}/post', { params: path() })), placeholderData: (before) => before })
  const offered = useQuery({ queryKey: ['post-offered', document, edition, version], queryFn: () => got(api.GET('/api/documents/{document_id}/editions/{edition}/post/offered', { params: path() })), staleTime: Infinity })

  const post = ref<Post>({ first_line: '', body: '', hashtags: [], link: '' })
  const own = ref(false)
  const failed = ref('')
  const unkept = ref(false)
  const other = ref<PostText | null>(null) // what somebody else has written in the meantime
  let known = 0 // the version of the text that is shown
  let line = Promise.resolve()

  function take(now: PostText) {
    known = now.version
    own.value = now.own
    client.setQueryData(['post', document.value, edition.value, version.value], now)
  }
  watch(query.data, (now) => {
    if (!now || unkept.value) return
    post.value = { ...now.post } as Post
    known = now.version
    own.value = now.own
  }, { immediate: true })

  /** One after the other, so that each is kept over the one before. */
  const keep = (alone = own.value, over?: number) => (line = line.then(async () => {
    const written = { ...post.value }
    unkept.value = false
    try {
      take(await got(api.PUT('/api/documents/{document_id}/editions/{edition}/post', { params: path(), body: { post: written, version: over ?? known, alone } })))
      failed.value = ''
      void client.invalidateQueries({ queryKey: ['proof'] })
    } catch (error) {
      if (!(error instanceof ApiError)) return tellError(error)
      if (error.status === 409) {
        other.value = (error.body as Schemas['NewerPost']).post
        unkept.value = true // what was typed stays, until the person has said whose it is to be
      } else {
        failed.value = error.message
      }
    }
  }))
  const settle = () => (other.value ? line : keep())
  const soon = useDebounceFn(() => { if (unkept.value) void settle() }, TYPED)

  function change(more: Partial<Post>) {
    post.value = { ...post.value, ...more }
    unkept.value = true
    void soon()
  }
  const now = () => { if (unkept.value) void settle() }
  onScopeDispose(now)

  return {
    post, own, failed, change, now, unkept, other,
    /** Whose text it is to be, where two have written at once. */
    settleWith(mine: boolean) {
      const theirs = other.value!
      other.value = null
      if (mine) return keep(own.value, theirs.version)
      unkept.value = false
      take(theirs)
      post.value = { ...theirs.post } as Post
    },
    text: computed(() => query.data.value ?? null),
    offered: computed(() => offered.data.value ?? null),
    error: query.error,
    /** A text of this edition alone, which begins as it is; or again that of all. */
    async setOwn(alone: boolean) {
      if (alone) return keep(true, 0)
      try {
        const all = await got(api.DELETE('/api/documents/{document_id}/editions/{edition}/post', { params: path() }))
        take(all)
        post.value = { ...all.post } as Post
      } catch (error) {
        tellError(error)
      }
    },
  }
}
