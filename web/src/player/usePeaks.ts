import { useQueries } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import type { Source } from './usePlayer'

/** The loudness of each recording that a clip shows, by its id; those that are not there yet are left out. */
export function usePeaks(sources: Ref<Pick<Source, 'id' | 'playable'>[]>) {
  const queries = useQueries({
    queries: computed(() =>
      sources.value.map((each) => ({
        queryKey: ['peaks', each.id, each.playable],
        queryFn: async () => {
          const answer = await fetch(`/api/recordings/${each.id}/files/peaks`)
          return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : null
        },
        staleTime: Infinity,
      })),
    ),
  })
  return computed(() => {
    const peaks = new Map<string, Uint8Array>()
    sources.value.forEach((each, n) => {
      const data = queries.value[n]?.data
      if (data) peaks.set(each.id, data)
    })
    return peaks
  })
}
