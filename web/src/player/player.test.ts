import type { VideoSample } from 'mediabunny'
import { beforeEach, describe, expect, it, vi } from 'vitest'

const fakes = vi.hoisted(() => ({
  clock: 0, copy: vi.fn(), sound: vi.fn(), play: vi.fn(), stop: vi.fn(), mixerClosed: vi.fn(), libraryClosed: vi.fn(), stillsClosed: vi.fn(),
  drawn: [] as [number, boolean][], plain: vi.fn(), cleared: vi.fn(), ready: vi.fn(), compositor: null as unknown as { coloured: boolean }, opened: [] as number[], samples: [] as { closed: boolean }[],
}))
vi.mock('./library', () => ({ Library: class { copy = fakes.copy; close = fakes.libraryClosed } }))
vi.mock('./mixer', () => ({ Mixer: class { play = fakes.play; stop = fakes.stop; close = fakes.mixerClosed; time = (speed: number) => fakes.clock * speed } }))
vi.mock('./stills', () => ({ Stills: class { ready = fakes.ready; close = fakes.stillsClosed } }))
vi.mock('./grades', () => ({ Grades: class { ready = fakes.ready } }))
vi.mock('./compositor', () => ({
  Compositor: class {
    coloured = true
    constructor() { fakes.compositor = this }
    clear = fakes.cleared
    plain = fakes.plain
    draw(_: unknown, frame: number, sampleOf: (layer: unknown) => unknown, quickly: boolean) { sampleOf(null); fakes.drawn.push([frame, quickly]) }
  },
}))
vi.mock('./pictures', () => ({
  Pictures: class {
    constructor(_: unknown, __: unknown, from: number) { fakes.opened.push(from) }
    at = vi.fn()
    sample = vi.fn()
    close = vi.fn()
  },
  stillOf: vi.fn(async (_: unknown, layers: { source: unknown }[]) => new Map(layers.map(({ source }) => {
    const sample = { closed: false, close() { this.closed = true } }
    fakes.samples.push(sample)
    return [source, sample as unknown as VideoSample]
  }))),
}))

let paints: (() => void)[] = []
vi.stubGlobal('requestAnimationFrame', (paint: () => void) => paints.push(paint))
const next = () => { const now = paints; paints = []; now.forEach((paint) => paint()) }

const { Player } = await import('./player')
type Plan = import('./timeline').Plan

const plan = (seconds: number) => ({
  rate: { num: 30, den: 1 }, frames: seconds * 30, samples: seconds * 48_000, sample_rate: 48_000, width: 2, height: 2, ground: '#000000',
  picture: [{ first: 0, last: seconds * 30, source: { type: 'video', media: 'r1', knots: [] }, backdrop: { type: 'plain', colour: '#000000' }, opacity: [], place: [] }],
  stretches: [{ recording: 'r1' }, { recording: 'r2' }, { recording: null }, { recording: 'r1' }],
}) as unknown as Plan

function player(seconds = 10, framed = true) {
  const listener = { moved: vi.fn(), playing: vi.fn(), heard: vi.fn() }
  const canvas = { dataset: {} as Record<string, string> }
  const made = new Player(plan(seconds), { canvas: canvas as unknown as HTMLCanvasElement, sizeOf: () => undefined, addresses: {} as never, framed }, listener)
  return { made, listener, canvas }
}

beforeEach(() => {
  vi.clearAllMocks()
  Object.assign(fakes, { clock: 0, drawn: [], opened: [], samples: [] })
  paints = []
  fakes.copy.mockResolvedValue({})
  fakes.play.mockResolvedValue(undefined)
  fakes.ready.mockResolvedValue(undefined)
})

describe('a player', () => {
  it('opens what is shown first, then the rest, and shows the first frame', async () => {
    const { made, canvas } = player()
    await made.open()
    expect(fakes.copy.mock.calls.map(([media]) => media)).toEqual(['r1', 'r2'])
    expect(fakes.drawn).toEqual([[0, false]])
    expect(canvas.dataset.frame).toBe('0')
    expect(fakes.samples.every((each) => each.closed)).toBe(true)
  })

  it('goes to a place within the clip, and shows its frame', async () => {
    const { made, listener } = player()
    await made.seek(2.5)
    expect(fakes.drawn.at(-1)).toEqual([75, false])
    await made.seek(99)
    expect([made.time, fakes.drawn.at(-1)![0]]).toEqual([10, 299])
    await made.seek(-3)
    expect(listener.moved).toHaveBeenLastCalledWith(0)
  })

  it('shows the newest of two places that were gone to at once', async () => {
    const { made } = player()
    await Promise.all([made.seek(1), made.seek(4)])
    expect(fakes.drawn).toEqual([[120, false]])
    expect(fakes.samples.every((each) => each.closed)).toBe(true)
  })

  it('follows the clock of its sound while it plays, a frame at a time', async () => {
    const { made, listener } = player()
    await made.seek(1)
    await made.play()
    expect(listener.playing).toHaveBeenLastCalledWith(true)
    expect(fakes.play).toHaveBeenCalledExactlyOnceWith(expect.anything(), 1, 1, expect.anything())
    expect(fakes.opened).toEqual([30])
    for (const clock of [1.2, 1.21, 1.4]) {
      fakes.clock = clock
      next()
    }
    expect(fakes.drawn.filter(([, quickly]) => quickly).map(([frame]) => frame)).toEqual([0, 36, 42])
    expect(made.time).toBeCloseTo(1.4)
  })

  it('stops at its end, and begins at the front when it is played again', async () => {
    const { made, listener } = player()
    await made.play()
    fakes.clock = 10.2
    next()
    expect([made.playing, made.time]).toEqual([false, 10])
    expect(listener.playing).toHaveBeenLastCalledWith(false)
    await made.play()
    expect(fakes.play).toHaveBeenLastCalledWith(expect.anything(), 0, 1, expect.anything())
  })

  it('stands where it was when it is paused', async () => {
    const { made } = player()
    await made.play()
    fakes.clock = 3
    next()
    made.pause()
    await vi.waitFor(() => expect(fakes.drawn.at(-1)).toEqual([90, false]))
    expect([made.playing, made.time]).toEqual([false, 3])
    expect(fakes.stop).toHaveBeenCalled()
    next()
    expect(fakes.drawn.at(-1)).toEqual([90, false])
  })

  it('goes on playing from another place, at another speed, or with another plan', async () => {
    const { made } = player()
    await made.play()
    await made.seek(5)
    expect(fakes.play).toHaveBeenLastCalledWith(expect.anything(), 5, 1, expect.anything())
    fakes.clock = 6
    await made.setSpeed(1.5)
    expect(fakes.play.mock.lastCall!.slice(1, 3)).toEqual([6, 1.5])
    const other = plan(20)
    await made.change(other, 15)
    expect(fakes.play).toHaveBeenLastCalledWith(other, 15, 1.5, expect.anything())
    expect(made.playing).toBe(true)
  })

  it('plays nothing where nothing is left', async () => {
    const { made, listener } = player(0)
    await made.play()
    expect(listener.playing).not.toHaveBeenCalled()
    expect(fakes.play).not.toHaveBeenCalled()
  })

  it('does not begin when it was stopped while it got ready', async () => {
    const { made } = player()
    fakes.play.mockImplementationOnce(async () => { made.pause() })
    await made.play()
    expect(paints).toEqual([])
    expect(made.playing).toBe(false)
  })

  it('shows a recording as it is where nothing is framed, and colours as they were filmed', async () => {
    const { made } = player(10, false)
    await made.setColoured(false)
    expect(fakes.compositor.coloured).toBe(false)
    expect(fakes.plain).toHaveBeenCalledTimes(1)
    expect(fakes.drawn).toEqual([])
  })

  it('lets go of all it holds', () => {
    const { made } = player()
    made.close()
    for (const closed of [fakes.libraryClosed, fakes.stillsClosed, fakes.mixerClosed]) expect(closed).toHaveBeenCalledTimes(1)
  })
})
