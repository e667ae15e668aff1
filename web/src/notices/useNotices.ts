import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

export type Notice = Schemas['NoticeOut']
const FRESH = 15_000 // ms after which it is asked whether something has happened

/** What others did, and what is ready or failed. */
export function useNotices() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['notices'], queryFn: () => got(api.GET('/api/notices')), refetchInterval: FRESH })
  return {
    notices: computed(() => query.data.value?.notices ?? []),
    unread: computed(() => query.data.value?.unread ?? 0),
    async read() {
      const newest = query.data.value?.notices[0]
      if (!newest || !query.data.value?.unread) return
      const now = await got(api.POST('/api/notices/read', { body: { until: newest.id } })).catch(tellError)
      if (now) client.setQueryData(['notices'], now)
    },
  }
}
