import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'
import { active } from '@/shared/jobs'

export type Export = Schemas['ExportOut']
export type Output = Schemas['Output']

/** The exports of a clip; asked again while one is being made, and whenever the clip changes (`version`). */
export function useExports(id: Ref<string>, version: Ref<number>, wanted: Ref<{ editions: string[]; output: Output }>) {
  const client = useQueryClient()
  const path = () => ({ path: { document_id: id.value } })
  const query = useQuery({
    queryKey: ['exports', id, version],
    queryFn: () => got(api.GET('/api/documents/{document_id}/exports', { params: path() })),
    refetchInterval: (state) => (state.state.data?.some((each) => each.job && active(each.job)) ? 700 : false),
    placeholderData: (before) => before,
  })
  const expected = useQuery({
    queryKey: ['expected', id, version, wanted],
    queryFn: () => got(api.POST('/api/documents/{document_id}/exports/expected', { params: path(), body: wanted.value })),
    enabled: () => wanted.value.editions.length > 0,
    placeholderData: (before) => before,
  })

  async function act(work: Promise<unknown>) {
    await work.catch(tellError)
    await client.invalidateQueries({ queryKey: ['exports', id.value] })
    void client.invalidateQueries({ queryKey: ['clips'] })
  }

  return {
    exports: computed(() => query.data.value ?? []),
    expected: computed(() => expected.data.value ?? []),
    start: () => act(got(api.POST('/api/documents/{document_id}/exports', { params: path(), body: wanted.value }))),
    retry: (each: Export) => act(got(api.POST('/api/exports/{export_id}/retry', { params: { path: { export_id: each.id } } }))),
    remove: (each: Export) => act(got(api.DELETE('/api/exports/{export_id}', { params: { path: { export_id: each.id } } }))),
    watched: (each: Export, seconds: number) => act(got(api.POST('/api/exports/{export_id}/watched', { params: { path: { export_id: each.id } }, body: { seconds } }))),
    cancel: (each: Export) => act(got(api.POST('/api/jobs/{job_id}/cancel', { params: { path: { job_id: each.job?.id ?? '' } } }))),
  }
}
