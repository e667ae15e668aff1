import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'

export type Clip = Schemas['ClipOut']

/** The clips of the workspace; asked again soon while one of them is being exported. */
export function useClips() {
  const query = useQuery({
    queryKey: ['clips'],
    queryFn: () => got(api.GET('/api/clips')),
    refetchInterval: (state) => (state.state.data?.some((clip) => clip.export === 'waiting') ? 1500 : 15_000),
  })
  return {
    query,
    /** The clips that show a recording, with what they show of it. */
    of: (recording: string) =>
      (query.data.value ?? [])
        .map((clip) => ({ ...clip, stretches: clip.stretches.filter((each) => each.recording === recording) }))
        .filter((clip) => clip.stretches.length > 0),
    all: computed(() => query.data.value ?? []),
  }
}
