import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Library } from './library'
import type { Plan, SoundLayer } from './timeline'

vi.mock('@soundtouchjs/audio-worklet', () => ({
  SoundTouchNode: class {
    static register = vi.fn(async () => {})
    playbackRate = { value: 1 }
    connect = vi.fn()
  },
}))
vi.mock('@soundtouchjs/audio-worklet/processor?url', () => ({ default: 'processor.js' }))
vi.mock('./limiter.worklet.ts?worker&url', () => ({ default: 'limiter.js' }))

const RATE = 48_000
interface Started { when: number; offset: number; speed: number; samples: number }
const started: Started[] = []
const worklets: { options: AudioWorkletNodeOptions; port: { postMessage: ReturnType<typeof vi.fn> }; disconnect: ReturnType<typeof vi.fn> }[] = []
const gains: { gain: { value: number } }[] = []
let clock = { now: 0 }

class FakeContext {
  sampleRate = RATE
  destination = { name: 'speakers' }
  audioWorklet = { addModule: vi.fn(async () => {}) }
  get currentTime() { return clock.now }
  resume = vi.fn(async () => {})
  close = vi.fn(async () => {})
  createGain() { const node = { gain: { value: 1 }, connect: vi.fn(), disconnect: vi.fn() }; gains.push(node); return node }
  createBuffer(_: number, length: number) { return { length, copyToChannel: vi.fn() } }
  createBufferSource() {
    const node = {
      buffer: null as { length: number } | null, playbackRate: { value: 1 }, connect: vi.fn(), disconnect: vi.fn(), onended: null,
      start: (when: number, offset: number) => started.push({ when, offset, speed: node.playbackRate.value, samples: node.buffer!.length }),
    }
    return node
  }
}
vi.stubGlobal('AudioContext', FakeContext)
vi.stubGlobal('AudioWorkletNode', class {
  port = { postMessage: vi.fn() }
  disconnect = vi.fn()
  connect = vi.fn()
  constructor(_: unknown, __: string, options: AudioWorkletNodeOptions) { worklets.push({ options, port: this.port, disconnect: this.disconnect }) }
})
const { Mixer } = await import('./mixer')
const { DELAY } = await import('./limiter')

const layer = (second: number, seconds: number): SoundLayer =>
  ({ bus: 'speech', layer: '', media: 'r', sample: second * RATE, samples: seconds * RATE, source_sample: 0, gain: 0, level: [], fade_in: 0, fade_out: 0 })
const plan = (...sound: SoundLayer[]) => ({ sample_rate: RATE, samples: 60 * RATE, master: -6, peak_db: -1.5, sound }) as unknown as Plan
const silence = { sound: vi.fn(async (_: string, __: number, count: number) => [new Float32Array(count), new Float32Array(count)]) }
const PREROLL = 0.17

beforeEach(() => {
  started.length = 0
  worklets.length = 0
  gains.length = 0
  clock = { now: 10 }
  silence.sound.mockClear()
})

describe('the sound of a plan', () => {
  it('stands on its sample of the clock, earlier by what the limiter holds it back', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    await mixer.play(plan(layer(0, 1), layer(1.5, 1)), 0, 1, new AbortController().signal)
    expect(started.map((each) => each.when)).toEqual([0, 1.5].map((at) => expect.closeTo(10 + PREROLL + at - DELAY / RATE, 6)))
    expect(mixer.time(1)).toBeCloseTo(-PREROLL)
    clock.now = 12
    expect(mixer.time(1)).toBeCloseTo(2 - PREROLL)
  })

  it('begins amid a layer where playing does', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    await mixer.play(plan(layer(0, 3)), 2, 1, new AbortController().signal)
    expect(silence.sound).toHaveBeenCalledExactlyOnceWith('r', 2 * RATE, RATE, expect.anything())
    expect(started[0]).toMatchObject({ samples: RATE, offset: 0 })
    expect(mixer.time(1)).toBeCloseTo(2 - PREROLL)
  })

  it('goes twice as fast at twice the speed, with the pitch brought back', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    await mixer.play(plan(layer(0, 1), layer(2, 1)), 0, 2, new AbortController().signal)
    expect(started.map((each) => each.speed)).toEqual([2, 2])
    expect(started[1]!.when - started[0]!.when).toBeCloseTo(1)
    clock.now = 11
    expect(mixer.time(2)).toBeCloseTo(2 * (1 - PREROLL))
  })

  it('is decoded soon before it is heard, and no further', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    const run = new AbortController()
    await mixer.play(plan(layer(0, 1), layer(40, 1)), 0, 1, run.signal)
    expect(silence.sound).toHaveBeenCalledTimes(1)
    clock.now = 10 + 36
    await vi.waitFor(() => expect(silence.sound).toHaveBeenCalledTimes(2), 2_000)
    run.abort()
  })

  it('that comes late goes on where it would be', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    const run = new AbortController()
    await mixer.play(plan(layer(0, 1), layer(4, 4)), 0, 1, run.signal)
    clock.now = 10 + PREROLL + 5
    await vi.waitFor(() => expect(started).toHaveLength(2), 2_000)
    expect(started[1]!.offset).toBeCloseTo(1 + DELAY / RATE, 4)
    run.abort()
  })

  it('never begins where it was stopped before it could', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    const run = new AbortController()
    run.abort()
    await mixer.play(plan(layer(0, 1)), 0, 1, run.signal)
    expect(started).toEqual([])
  })

  it('has the master of the plan on its sum', async () => {
    await new Mixer(silence as unknown as Library).play(plan(layer(0, 1)), 0, 1, new AbortController().signal)
    expect(gains.map((each) => each.gain.value)).toEqual([10 ** (-6 / 20)])
  })

  it('is kept under the ceiling of the export, and ends at once when it is stopped', async () => {
    const mixer = new Mixer(silence as unknown as Library)
    await mixer.play(plan(layer(0, 1)), 0, 1, new AbortController().signal)
    expect(worklets[0]!.options.processorOptions.ceiling).toBeCloseTo(10 ** (-1.5 / 20))
    mixer.stop()
    expect(worklets[0]!.port.postMessage).toHaveBeenCalledExactlyOnceWith('stop')
    expect(worklets[0]!.disconnect).toHaveBeenCalled()
  })
})
