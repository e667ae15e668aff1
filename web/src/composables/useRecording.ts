import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import type { Transcript } from './transcript'

export type Recording = Schemas['RecordingOut']
export type Job = Schemas['JobOut']

/** Whether a job still waits or runs. */
export function active(job: Job): boolean {
  return job.state === 'queued' || job.state === 'running'
}

/** What a job is to a person: part of bringing in, asked for, or done aside, not to be waited for. */
export type Part = Job['part']

/** The jobs of a recording that are of one part. */
export function jobsOf(recording: Recording | undefined, part: Part): Job[] {
  return recording?.jobs.filter((job) => job.part === part) ?? []
}

/** Whether something that is waited for is still being done to a recording. */
export function busy(recording: Recording | undefined, parts: Part[] = ['bringing in', 'asked for']): boolean {
  return parts.some((part) => jobsOf(recording, part).some(active))
}

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

/** Cancel a job. */
export function cancelJob(job: Job) {
  return got(api.POST('/api/jobs/{job_id}/cancel', { params: { path: { job_id: job.id } } }))
}

/** Prepare a recording again after it failed or was cancelled. */
export function prepareAgain(recording: Recording) {
  return got(api.POST('/api/recordings/{recording_id}/prepare', { params: { path: { recording_id: recording.id } } }))
}
