import { api, got, type Schemas } from '@/api/client'

export type Job = Schemas['JobOut']

/** What a job is to a person: part of bringing in, asked for, or done in the background, not to be waited for. */
export type Part = Job['part']

/** Whether a job still waits or runs. */
export function active(job: Job): boolean {
  return job.state === 'queued' || job.state === 'running'
}

/** Cancel a job. */
export function cancelJob(job: Job) {
  return got(api.POST('/api/jobs/{job_id}/cancel', { params: { path: { job_id: job.id } } }))
}
