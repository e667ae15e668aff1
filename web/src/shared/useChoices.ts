import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'

export type Choices = Schemas['Choices']

/** What the core decides and the page shows: outlets, styles, palettes, thresholds. Asked once. */
export function useChoices() {
  const query = useQuery({ queryKey: ['choices'], queryFn: () => got(api.GET('/api/choices')), staleTime: Infinity, gcTime: Infinity })
  return computed<Choices | null>(() => query.data.value ?? null)
}
