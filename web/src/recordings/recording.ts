import { api, got, type Schemas } from '@/api/client'
import { active, type Job, type Part } from '@/shared/jobs'

export type Recording = Schemas['RecordingOut']

/** The jobs of a recording that are of one part. */
export function jobsOf(recording: Recording | undefined, part: Part): Job[] {
  return recording?.jobs.filter((job) => job.part === part) ?? []
}

/** Whether something that is waited for is still being done to a recording. */
export function busy(recording: Recording | undefined, parts: Part[] = ['bringing in', 'asked for']): boolean {
  return parts.some((part) => jobsOf(recording, part).some(active))
}

/** Prepare a recording again after it failed or was cancelled. */
export function prepareAgain(recording: Recording) {
  return got(api.POST('/api/recordings/{recording_id}/prepare', { params: { path: { recording_id: recording.id } } }))
}
