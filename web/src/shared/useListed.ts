import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'

/** A list that the workspace has. `after` does something to it, then asks for it again. */
export function useListed<T>(name: string, ask: () => Promise<T[]>) {
  const client = useQueryClient()
  const query = useQuery({ queryKey: [name], queryFn: ask })
  return {
    items: computed(() => query.data.value ?? []),
    async after<R>(work: Promise<R>): Promise<R> {
      const done = await work
      await client.invalidateQueries({ queryKey: [name] })
      return done
    },
  }
}
