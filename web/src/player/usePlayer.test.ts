import { beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, shallowRef } from 'vue'

const fakes = vi.hoisted(() => ({ made: [] as FakePlayer[], captions: [] as { load: ReturnType<typeof vi.fn>; draw: ReturnType<typeof vi.fn>; destroy: ReturnType<typeof vi.fn> }[], end: [] as (() => void)[], tellError: vi.fn(), fails: null as Error | null }))
interface Listener { moved(seconds: number): void; playing(is: boolean): void }
interface Stage { framed: boolean; sizeOf(media: string): unknown; addresses: { recording(media: string): string | null; still(media: string): string; sound(media: string): string | null } }
class FakePlayer {
  time = 0
  open = vi.fn(async () => { if (fakes.fails) throw fakes.fails })
  change = vi.fn(async () => {})
  seek = vi.fn(async (seconds: number) => this.listener.moved(seconds))
  play = vi.fn(async () => this.listener.playing(true))
  pause = vi.fn(() => this.listener.playing(false))
  setSpeed = vi.fn(async () => {})
  setColoured = vi.fn(async () => {})
  close = vi.fn()
  constructor(readonly plan: unknown, readonly stage: Stage, readonly listener: Listener) { fakes.made.push(this) }
}
vi.mock('./player', () => ({ Player: class { constructor(plan: unknown, stage: Stage, listener: Listener) { return new FakePlayer(plan, stage, listener) } } }))
vi.mock('./captions', () => ({
  NO_CAPTIONS: 'nothing',
  Captions: class {
    load = vi.fn(async () => {})
    draw = vi.fn(async () => {})
    destroy = vi.fn()
    constructor() { fakes.captions.push(this) }
  },
}))
vi.mock('@/shared/tell', () => ({ tellError: fakes.tellError }))
vi.mock('vue', async (original) => ({ ...(await original<typeof import('vue')>()), onBeforeUnmount: (end: () => void) => fakes.end.push(end) }))
const { usePlayer } = await import('./usePlayer')
type Plan = import('./timeline').Plan
type Source = import('./usePlayer').Source

const plan = (start = 0, more: Partial<Plan> = {}) => ({
  rate: { num: 30, den: 1 }, samples: 480_000, sample_rate: 48_000, frames: 300, script: 'Dialogue: …', prepared: [{ media: 'made1-x' }],
  stretches: [{ piece: 'p1', recording: 'r', frame: 0, frames: 300, start, end: start + 10, even: true }], ...more,
}) as unknown as Plan
const source = (playable = true) => ({ id: 'r', title: '', duration: 60, has_picture: true, width: 1920, height: 1080, playable }) as unknown as Source

function playing(playable = true, now: Plan | null = plan()) {
  const [given, sources, picture] = [shallowRef(now), ref([source(playable)]), ref({} as HTMLCanvasElement)]
  const words = ref({ dataset: {} as Record<string, string> } as unknown as HTMLCanvasElement)
  const made = effectScope().run(() => usePlayer({ plan: given, sources, document: ref('d1'), picture, words, fonts: ref(['/fonts/a.ttf']) }))!
  return { made, plan: given, sources, picture, words }
}

beforeEach(() => {
  vi.clearAllMocks()
  Object.assign(fakes, { made: [], captions: [], end: [], fails: null })
})

describe('the stage of a page', () => {
  it('is opened when there is a plan, a canvas, and all recordings can be played', async () => {
    const { made, plan: given, sources, picture } = playing(false)
    picture.value = {} as HTMLCanvasElement
    await nextTick()
    expect(fakes.made).toEqual([])
    sources.value = [source()]
    await nextTick()
    expect(fakes.made[0]!.plan).toBe(given.value)
    await vi.waitFor(() => expect(made.ready.value).toBe(true))
  })

  it('tells what went wrong when it cannot be', async () => {
    const { made, sources } = playing(false)
    const broken = new Error('cannot be decoded')
    fakes.fails = broken
    sources.value = [source()]
    await nextTick()
    await vi.waitFor(() => expect(fakes.tellError.mock.calls[0]).toEqual([broken]))
    expect(made.ready.value).toBe(false)
  })

  it('finds media where they are', async () => {
    const { sources } = playing(false)
    sources.value = [source()]
    await nextTick()
    const { addresses, sizeOf, framed } = fakes.made[0]!.stage
    expect(addresses.recording('r')).toBe('/api/recordings/r/files/working')
    expect(addresses.recording('clearer1-light-r'), 'what is made of one').toBe('/api/documents/d1/sounds/clearer1-light-r')
    expect(addresses.still('a1')).toBe('/api/assets/a1/file')
    expect([addresses.sound('made1-x'), addresses.sound('r')]).toEqual(['/api/documents/d1/sounds/made1-x', null])
    expect(sizeOf('r')).toMatchObject({ width: 1920 })
    expect(framed).toBe(true)
  })

  it('shows the same moment of the recording when the plan becomes another one', async () => {
    const { sources, plan: given } = playing(false)
    sources.value = [source()]
    await nextTick()
    fakes.made[0]!.time = 4
    given.value = plan(3)
    await nextTick()
    expect(fakes.made[0]!.change).toHaveBeenCalledExactlyOnceWith(given.value, expect.closeTo(1))
  })

  it('plays, pauses and goes to places of the recording', async () => {
    const { made, sources } = playing(false, plan(2))
    sources.value = [source()]
    await nextTick()
    made.toggle()
    expect([fakes.made[0]!.play.mock.calls.length, made.playing.value]).toEqual([1, true])
    made.toggle()
    expect(made.playing.value).toBe(false)
    await made.seekSource(5)
    expect(made.time.value).toBeCloseTo(3, 3)
    expect(made.source.value).toBeCloseTo(5, 3)
    made.speed.value = 1.5
    made.coloured.value = false
    await nextTick()
    expect(fakes.made[0]!.setSpeed).toHaveBeenCalledExactlyOnceWith(1.5)
    expect(fakes.made[0]!.setColoured).toHaveBeenCalledExactlyOnceWith(false)
  })

  it('draws the captions of a frame once, and says which one is there', async () => {
    const { made, sources, words } = playing(false)
    sources.value = [source()]
    await nextTick()
    made.seek(1)
    made.seek(1.01)
    await vi.waitFor(() => expect(words.value.dataset.frame).toBe('30'))
    expect(fakes.captions[0]!.draw).toHaveBeenCalledExactlyOnceWith(1)
    made.seek(2)
    await vi.waitFor(() => expect(words.value.dataset.frame).toBe('60'))
  })

  it('needs no renderer where nothing is written, and keeps the one it has', async () => {
    const { made, sources, words, plan: given } = playing(false, plan(0, { script: null }))
    sources.value = [source()]
    await nextTick()
    made.seek(1)
    expect([fakes.captions.length, words.value.dataset.frame]).toEqual([0, '30'])
    given.value = plan()
    await nextTick()
    made.seek(2)
    given.value = plan(0, { script: null })
    await nextTick()
    made.seek(3)
    await vi.waitFor(() => expect(fakes.captions[0]!.load).toHaveBeenLastCalledWith('nothing', []))
    expect(fakes.captions).toHaveLength(1)
  })

  it('is let go of with the page', async () => {
    const { made, sources } = playing(false)
    sources.value = [source()]
    await nextTick()
    made.seek(1)
    fakes.end.forEach((end) => end())
    expect(fakes.made[0]!.close).toHaveBeenCalledTimes(1)
    expect(fakes.captions[0]!.destroy).toHaveBeenCalledTimes(1)
  })
})
