import { beforeEach, describe, expect, it, vi } from 'vitest'

const opened = vi.hoisted(() => ({ open: vi.fn(), closed: vi.fn(), read: vi.fn(), soundsClosed: vi.fn() }))
vi.mock('./working', () => ({ WorkingCopy: { open: opened.open } }))
vi.mock('./sounds', () => ({ Sounds: class { read = opened.read; close = opened.soundsClosed } }))
const { Library, sourceSample } = await import('./library')

const addresses = {
  recording: (media: string) => (media.startsWith('r') ? `/copies/${media}` : null),
  still: (media: string) => `/stills/${media}`,
  sound: (media: string) => (media.startsWith('made') ? `/made/${media}` : null),
  madeOf: (media: string) => (media === 'made1-c' ? { media, recording: 'r1', samples: 20, knots: [[0, 100], [10, 110], [20, 130]] as [number, number][] } : null),
}
const context = (buffer: Partial<AudioBuffer>) => ({ sampleRate: 48_000, decodeAudioData: vi.fn(async () => buffer) }) as unknown as BaseAudioContext & { decodeAudioData: ReturnType<typeof vi.fn> }
const ramp = Float32Array.from({ length: 10 }, (_, n) => n)

beforeEach(() => {
  vi.clearAllMocks()
  opened.open.mockImplementation(async (url: string) => ({ url, close: opened.closed }))
  opened.read.mockImplementation(async (_: string, __: number, count: number) => [new Float32Array(count).fill(1), new Float32Array(count).fill(2)])
})

describe('the media of a player', () => {
  it('are opened once, however often they are asked for', async () => {
    const library = new Library(addresses)
    const [one, two] = await Promise.all([library.copy('r1'), library.copy('r1')])
    expect(one).toBe(two)
    expect(opened.open).toHaveBeenCalledExactlyOnceWith('/copies/r1')
    expect(await library.copy('still')).toBeNull()
  })

  it('are tried again when they could not be opened', async () => {
    const library = new Library(addresses)
    opened.open.mockRejectedValueOnce(new Error('gone for a moment'))
    await expect(library.copy('r1')).rejects.toThrow('gone for a moment')
    expect(await library.copy('r1')).not.toBeNull()
  })

  it('are heard from the working copy, and are silent where there is none', async () => {
    const library = new Library(addresses)
    const [left, right] = await library.sound('r1', 100, 4, context({}))
    expect(opened.read).toHaveBeenCalledExactlyOnceWith('/copies/r1', 100, 4, 48_000)
    expect([left[0], right[0]]).toEqual([1, 2])
    expect([...(await library.sound('nothing', 0, 3, context({})))[0]]).toEqual([0, 0, 0])
  })

  it('are taken from what was prepared, decoded once, one channel for both sides', async () => {
    const library = new Library(addresses)
    const fetched = vi.fn(async () => ({ ok: true, arrayBuffer: async () => new ArrayBuffer(0) }))
    vi.stubGlobal('fetch', fetched)
    const own = context({ numberOfChannels: 1, getChannelData: () => ramp })
    expect([...(await library.sound('made1-a', 2, 3, own))[1]]).toEqual([2, 3, 4])
    expect([...(await library.sound('made1-a', 8, 4, own))[0]]).toEqual([8, 9, 0, 0])
    expect(fetched).toHaveBeenCalledExactlyOnceWith('/made/made1-a')
    expect(own.decodeAudioData).toHaveBeenCalledTimes(1)
  })

  it('are asked for again while a sound is still being made', async () => {
    const library = new Library(addresses)
    const fetched = vi.fn().mockResolvedValueOnce({ ok: false }).mockResolvedValue({ ok: true, arrayBuffer: async () => new ArrayBuffer(0) })
    vi.stubGlobal('fetch', fetched)
    const own = context({ numberOfChannels: 2, getChannelData: () => ramp })
    expect([...(await library.sound('made1-b', 5, 1, own))[0]]).toEqual([0])
    expect([...(await library.sound('made1-b', 5, 1, own))[0]]).toEqual([5])
  })

  it('are heard as what they are made of while they are still being made', async () => {
    const library = new Library(addresses)
    vi.stubGlobal('fetch', vi.fn(async () => ({ ok: false })))
    expect([...(await library.sound('made1-c', 15, 2, context({})))[0]]).toEqual([1, 1])
    expect(opened.read).toHaveBeenCalledExactlyOnceWith('/copies/r1', 120, 2, 48_000)
    const of = addresses.madeOf('made1-c')!
    expect([0, 4, 10, 20, 30].map((at) => sourceSample(of, at))).toEqual([100, 104, 110, 130, 130])
  })

  it('are let go of when it is closed, those that could not be opened too', async () => {
    const library = new Library(addresses)
    await library.copy('r1')
    opened.open.mockRejectedValueOnce(new Error('broken'))
    await library.copy('r2').catch(() => null)
    library.close()
    await vi.waitFor(() => expect(opened.closed).toHaveBeenCalledTimes(1))
    expect(opened.soundsClosed).toHaveBeenCalledTimes(1)
  })
})
