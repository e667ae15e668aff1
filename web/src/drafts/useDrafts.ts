import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { active } from '@/shared/jobs'
import { onTop } from '@/shared/onTop'
import { tellError } from '@/shared/tell'

export type Draft = Schemas['DraftOut']
export type Sentence = Schemas['DraftSentence']
export type Settings = Pick<Draft, 'outlet' | 'seconds' | 'narrator' | 'pace' | 'house'>

const SOON = 700 // ms after which it is asked again while its clip is being made

/** The drafts of the workspace. */
export function useDrafts() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['drafts'], queryFn: () => got(api.GET('/api/drafts')) })
  const refresh = () => client.invalidateQueries({ queryKey: ['drafts'] })
  return {
    query,
    async begin(body: Schemas['NewDraft']): Promise<Draft | undefined> {
      const made = await got(api.POST('/api/drafts', { body })).catch(tellError)
      if (made) await refresh()
      return made ?? undefined
    },
    async remove(id: string) {
      await got(api.DELETE('/api/drafts/{draft_id}', { params: { path: { draft_id: id } } })).catch(tellError)
      await refresh()
    },
  }
}

/** One draft, and the making of its clip. */
export function useDraftOf(id: () => string) {
  const client = useQueryClient()
  const params = () => ({ path: { draft_id: id() } })
  const key = computed(() => ['draft', id()])
  const query = useQuery({
    queryKey: key,
    queryFn: () => got(api.GET('/api/drafts/{draft_id}', { params: params() })),
    refetchInterval: (state) => (state.state.data?.jobs.some(active) ? SOON : false),
  })
  const draft = computed(() => query.data.value ?? null)
  const set = (made: Draft | undefined | void) => { if (made) client.setQueryData(key.value, made) }
  let line: Promise<unknown> = Promise.resolve() // changes go out one after another

  /** Change it on top of what is newest; `what` is asked for when its turn has come. */
  function change(what: () => Omit<Schemas['DraftChange'], 'version'>) {
    const turn = line.then(async () => {
      const row = draft.value
      if (!row) return
      const reread = async () => (await query.refetch()).data
      set(await onTop(row, reread, (version) => got(api.PATCH('/api/drafts/{draft_id}', { params: params(), body: { version, ...what() } }))).catch(tellError))
    })
    line = turn
    return turn
  }

  return {
    query,
    draft,
    change,
    async choose() {
      await line
      if (draft.value) set(await got(api.POST('/api/drafts/{draft_id}/choose', { params: { ...params(), query: { version: draft.value.version } } })).catch(tellError))
    },
    async make() {
      await line
      set(await got(api.POST('/api/drafts/{draft_id}/clip', { params: params() })).catch(tellError))
    },
    async script(): Promise<string | null> {
      await line
      const made = await got(api.POST('/api/drafts/{draft_id}/script', { params: params() })).catch(tellError)
      set(made)
      return made?.script ?? null
    },
    refresh: () => client.invalidateQueries({ queryKey: key.value }),
  }
}

/** The text of a file. */
export async function draftTextOf(file: File): Promise<Schemas['DraftText'] | undefined> {
  const body = new FormData()
  body.append('file', file)
  return (await got(api.POST('/api/drafts/file', { body: body as never, bodySerializer: (given) => given as never })).catch(tellError)) ?? undefined
}

/** The text that a link leads to. */
export async function draftTextAt(link: string): Promise<Schemas['DraftText'] | undefined> {
  return (await got(api.POST('/api/drafts/link', { body: { link } })).catch(tellError)) ?? undefined
}
