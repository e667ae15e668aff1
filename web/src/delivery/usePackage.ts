import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { active } from '@/shared/jobs'
import { tellError } from '@/shared/tell'

export type Packing = Schemas['Packing']

/** A package that is asked for, watched until it can be fetched. */
export function usePackage() {
  const client = useQueryClient()
  const id = ref<string | null>(null)
  const path = () => ({ params: { path: { package_id: id.value! } } })
  const query = useQuery({
    queryKey: ['package', id],
    queryFn: () => got(api.GET('/api/packages/{package_id}', path())),
    enabled: () => id.value !== null,
    refetchInterval: (state) => (state.state.data?.job && active(state.state.data.job) ? 700 : false),
  })
  const again = () => client.invalidateQueries({ queryKey: ['package', id.value] })
  return {
    made: computed(() => (id.value ? query.data.value ?? null : null)),
    async begin(wanted: Packing) {
      try {
        const row = await got(api.POST('/api/packages', { body: wanted }))
        client.setQueryData(['package', row.id], row)
        id.value = row.id
      } catch (error) {
        tellError(error)
      }
    },
    retry: () => got(api.POST('/api/packages/{package_id}/retry', path())).then(again, tellError),
    cancel: () => got(api.POST('/api/jobs/{job_id}/cancel', { params: { path: { job_id: query.data.value?.job?.id ?? '' } } })).then(again, tellError),
  }
}
