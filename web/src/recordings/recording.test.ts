import { describe, expect, it, vi } from 'vitest'
import type { Job } from '@/shared/jobs'
import type { Recording } from './recording'

vi.mock('@/api/client', () => ({ api: {}, got: vi.fn() }))
const { active } = await import('@/shared/jobs')
const { busy, jobsOf } = await import('./recording')

const job = (part: string, state: string) => ({ part, state }) as unknown as Job
const recording = (...jobs: Job[]) => ({ jobs }) as unknown as Recording

describe('what is done to a recording', () => {
  it('is told by its part', () => {
    const [prepare, speakers] = [job('bringing in', 'done'), job('asked for', 'running')]
    expect(jobsOf(recording(prepare, speakers), 'bringing in')).toEqual([prepare])
    expect(jobsOf(undefined, 'bringing in')).toEqual([])
  })

  it('is waited for while it is queued or runs, but not what is done in the background', () => {
    expect(['queued', 'running', 'done', 'failed', 'cancelled'].map((state) => active(job('asked for', state)))).toEqual([true, true, false, false, false])
    expect(busy(recording(job('bringing in', 'queued')))).toBe(true)
    expect(busy(recording(job('in the background', 'running')))).toBe(false)
    expect(busy(recording(job('asked for', 'running')), ['bringing in'])).toBe(false)
  })
})
