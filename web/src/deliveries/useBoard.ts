import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'
import type { BoardClip } from './narrowing'

const SOON = 1_500, LATER = 15_000 // ms after which it is asked again, while something is being made and otherwise

/** All clips with their states, and what is done with several of them. */
export function useBoard() {
  const client = useQueryClient()
  const query = useQuery({
    queryKey: ['deliveries'],
    queryFn: () => got(api.GET('/api/deliveries')),
    refetchInterval: (state) => (state.state.data?.clips.some((clip) => clip.cells.some((cell) => cell.state === 'making')) ? SOON : LATER),
  })
  const again = () => client.invalidateQueries({ queryKey: ['deliveries'] })
  const exporting = ref<{ done: number; of: number; wrong: string[] } | null>(null)

  return {
    query,
    again,
    board: computed(() => query.data.value ?? null),
    exporting,
    async agree(wanted: Schemas['DutyWanted']) {
      await got(api.PUT('/api/deliveries/duties', { body: wanted })).catch(tellError)
      await again()
    },
    /** Export what is not there, or not as its clip is, one clip after the other: one that cannot be does not hold up the rest. */
    async exportAll(clips: BoardClip[]) {
      const wanted = clips.map((clip) => ({ clip, editions: clip.cells.filter((each) => each.to_export).map((each) => each.edition) })).filter((each) => each.editions.length)
      exporting.value = { done: 0, of: wanted.length, wrong: [] }
      for (const { clip, editions } of wanted) {
        const params = { path: { document_id: clip.id } }
        await got(api.POST('/api/documents/{document_id}/exports', { params, body: { editions, output: OUTPUT } })).catch((error: Error) => exporting.value?.wrong.push(`“${clip.title}”: ${error.message}`))
        exporting.value.done += 1
      }
      await again()
    },
  }
}
const OUTPUT = { kind: 'mp4', quality: 'good', lines: null, start: 0, seconds: 3 } as const
