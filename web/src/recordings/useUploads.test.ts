import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'

const tus = vi.hoisted(() => ({ made: [] as FakeUpload[], left: [] as { metadata: { filename: string }; creationTime: string; urlStorageKey: string }[], forgotten: [] as string[], previous: [] as object[] }))
interface Options { metadata: Record<string, string>; onProgress(sent: number): void; onSuccess(of: { lastResponse: { getHeader(): string | undefined } }): void; onError(error: object): void }
class FakeUpload {
  start = vi.fn()
  abort = vi.fn(async () => {})
  resumeFromPreviousUpload = vi.fn()
  constructor(readonly file: File, readonly options: Options) { tus.made.push(this) }
  findPreviousUploads = async () => tus.previous
}
vi.mock('tus-js-client', () => ({
  Upload: class { constructor(file: File, options: Options) { return new FakeUpload(file, options) } },
  defaultOptions: { urlStorage: { findAllUploads: async () => tus.left, removeUpload: async (key: string) => void tus.forgotten.push(key) } },
}))
vi.mock('@/api/client', () => ({ csrfToken: () => 'token' }))
const { useUploads } = await import('./useUploads')

const file = (name: string, size = 5_000) => ({ name, size }) as File
function uploads(hours = 24) {
  const done = vi.fn()
  return { done, ...effectScope().run(() => useUploads(() => hours, done))! }
}
const settled = () => new Promise((next) => setTimeout(next))

beforeEach(() => {
  tus.made = []
  tus.left = []
  tus.forgotten = []
  tus.previous = []
})

describe('files on their way', () => {
  it('are sent with what goes with them, and told when they are there', async () => {
    const { list, start, done } = uploads()
    const words = file('talk.srt')
    start(file('talk.mp4'), { show: 's1', shelf: true, words })
    await settled()
    const [upload] = tus.made
    expect(upload!.options.metadata).toEqual({ filename: 'talk.mp4', show: 's1', shelf: 'yes' })
    expect(upload!.start).toHaveBeenCalledTimes(1)
    upload!.options.onProgress(2_000)
    expect(list.value[0]).toMatchObject({ sent: 2_000, state: 'sending' })
    upload!.options.onSuccess({ lastResponse: { getHeader: () => 'r1' } })
    expect(list.value).toEqual([])
    expect(done).toHaveBeenCalledExactlyOnceWith('r1', { show: 's1', shelf: true, words })
  })

  it('that are empty are not sent', () => {
    const { list, start } = uploads()
    start(file('nothing.mp4', 0))
    expect(list.value[0]).toMatchObject({ state: 'failed', problem: expect.stringContaining('empty') })
    expect(tus.made).toEqual([])
  })

  it('go on where they were broken off', async () => {
    const { start } = uploads()
    tus.previous = [{ uploadUrl: '/api/uploads/1' }]
    start(file('talk.mp4'))
    await settled()
    expect(tus.made[0]!.resumeFromPreviousUpload).toHaveBeenCalledExactlyOnceWith({ uploadUrl: '/api/uploads/1' })
  })

  it('say in the words of the server why they were refused, and else that the connection was lost', async () => {
    const { list, start, goOn } = uploads()
    start(file('talk.mp4'))
    await settled()
    tus.made[0]!.options.onError({ originalResponse: { getBody: () => '{"detail": "There is no room left."}' } })
    expect(list.value[0]).toMatchObject({ state: 'failed', problem: 'There is no room left.' })
    goOn(list.value[0]!)
    expect(list.value[0]).toMatchObject({ state: 'sending', problem: '' })
    expect(tus.made[0]!.start).toHaveBeenCalledTimes(2)
    tus.made[0]!.options.onError({ originalResponse: { getBody: () => '<html>' } })
    expect(list.value[0]!.problem).toContain('connection was lost')
  })

  it('wait, go on, and are given up', async () => {
    const { list, start, pause, goOn, cancel } = uploads()
    start(file('talk.mp4'))
    await settled()
    pause(list.value[0]!)
    expect(list.value[0]!.state).toBe('paused')
    expect(tus.made[0]!.abort).toHaveBeenLastCalledWith()
    goOn(list.value[0]!)
    cancel(list.value[0]!)
    expect(tus.made[0]!.abort).toHaveBeenLastCalledWith(true)
    expect(list.value).toEqual([])
  })

  it('of an earlier page are told as long as they are kept, and can be forgotten', async () => {
    const hoursAgo = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString()
    tus.left = [{ metadata: { filename: 'long.mp4' }, creationTime: hoursAgo(2), urlStorageKey: 'k1' }, { metadata: { filename: 'old.mp4' }, creationTime: hoursAgo(30), urlStorageKey: 'k2' }]
    const { unfinished, start } = uploads()
    await vi.waitFor(() => expect(unfinished.value.map((each) => each.name)).toEqual(['long.mp4']))
    unfinished.value[0]!.forget()
    expect(tus.forgotten).toEqual(['k1'])
    start(file('long.mp4'))
    await vi.waitFor(() => expect(unfinished.value).toEqual([]))
  })
})
