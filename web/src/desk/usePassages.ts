import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

export type Passage = Schemas['PassageOut']
export type Passages = Schemas['PassagesOut']
export type Step = NonNullable<Schemas['PassageChange']['step']>

const AGAIN = 1500 // milliseconds between two looks at whether they are found

/** What of a recording is worth sharing; asked for again while it is looked for. */
export function usePassages(id: Ref<string>, ready: Ref<boolean>) {
  const client = useQueryClient()
  const key = () => ['passages', id.value]
  const path = () => ({ path: { recording_id: id.value } })
  const looking = (found?: Passages) => !!found && (found.state === 'queued' || found.state === 'running')
  const query = useQuery({
    queryKey: ['passages', id],
    queryFn: () => got(api.GET('/api/recordings/{recording_id}/passages', { params: path() })),
    enabled: ready,
    refetchInterval: (state) => (looking(state.state.data) ? AGAIN : false),
  })

  /** Do something that answers with the passages as they are then; whether it was done. */
  async function does(work: Promise<Passages>): Promise<boolean> {
    try {
      client.setQueryData(key(), await work)
      return true
    } catch (error) {
      tellError(error)
      await query.refetch()
      return false
    }
  }
  const change = ({ id: passage_id, version }: Passage, what: { step?: Step; hidden?: boolean }) =>
    does(got(api.PATCH('/api/recordings/{recording_id}/passages/{passage_id}', { params: { path: { recording_id: id.value, passage_id } }, body: { version, ...what } })))

  return {
    found: computed(() => query.data.value ?? null),
    looking: computed(() => looking(query.data.value)),
    shown: computed(() => (query.data.value?.passages ?? []).filter((each) => each.state !== 'hidden')),
    look: () => does(got(api.POST('/api/recordings/{recording_id}/passages', { params: path() }))),
    step: (passage: Passage, step: Step) => change(passage, { step }),
    hide: (passage: Passage, hidden: boolean) => change(passage, { hidden }),
    forget: () => does(got(api.DELETE('/api/recordings/{recording_id}/passages/choices', { params: path() }))),
    /** Make clips of some; those that were made. */
    async make(passages: string[]): Promise<Schemas['MadeOut'][]> {
      const made = await got(api.POST('/api/recordings/{recording_id}/passages/clips', { params: path(), body: { passages } })).catch(tellError)
      await query.refetch()
      return made ?? []
    },
  }
}
