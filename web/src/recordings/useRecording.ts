import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got } from '@/api/client'
import type { Transcript } from '@/document/transcript'
import { busy } from './recording'

/** All recordings; asked again every second while one is being prepared. */
export function useRecordings() {
  return useQuery({
    queryKey: ['recordings'],
    queryFn: () => got(api.GET('/api/recordings')),
    refetchInterval: (query) => (query.state.data?.some((each) => busy(each)) ? 1000 : 15_000),
  })
}

/** One recording and its words; asked again while they are being found. */
export function useRecording(id: Ref<string>) {
  const client = useQueryClient()
  const path = computed(() => ({ params: { path: { recording_id: id.value } } }))
  const recording = useQuery({
    queryKey: ['recording', id],
    queryFn: () => got(api.GET('/api/recordings/{recording_id}', path.value)),
    refetchInterval: (query) => (busy(query.state.data) ? 1000 : false),
  })
  const transcript = useQuery({
    queryKey: ['transcript', id],
    queryFn: () => got(api.GET('/api/recordings/{recording_id}/transcript', path.value)),
    refetchInterval: (query) => (query.state.data?.complete ? false : 1500),
    staleTime: Infinity,
    structuralSharing: false, // words are compared by the page itself
    shallow: true, // and there are many
    refetchOnMount: 'always',
  })
  return {
    recording,
    transcript,
    setTranscript: (change: (before: Transcript) => Transcript) =>
      client.setQueryData<Transcript>(['transcript', id.value], (before) => before && change(before)),
    reread: () => client.invalidateQueries({ queryKey: ['transcript', id.value] }),
    refresh: () => client.invalidateQueries({ queryKey: ['recording', id.value] }),
  }
}
