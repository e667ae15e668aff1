import type { VideoSample } from 'mediabunny'
import { describe, expect, it, vi } from 'vitest'
import type { Library } from './library'
import { Pictures, stillOf } from './pictures'
import type { Film, PictureLayer, Plan } from './timeline'

const RATE = 30

/** A picture that remembers when it is of, and whether it was let go of. */
interface Fake { at: number; closed: boolean; close(): void }
const made: Fake[] = []
function sampleAt(at: number): VideoSample {
  const sample: Fake = { at, closed: false, close() { this.closed = true } }
  made.push(sample)
  return sample as unknown as VideoSample
}
const at = (sample: VideoSample | undefined) => (sample as unknown as Fake | undefined)?.at
const frameOf = (seconds: number) => Math.floor(seconds * RATE)

const video = (media: string, first: number, last: number, source: number): PictureLayer =>
  ({ first, last, source: { type: 'video', media, knots: [{ frame: first, source }] } }) as unknown as PictureLayer
const film = (layer: PictureLayer) => layer.source as Film
const plan = (...picture: PictureLayer[]) => ({ rate: { num: RATE, den: 1 }, picture }) as unknown as Plan

function library(missing: string[] = []) {
  const asked: string[] = []
  const pictures = {
    async *samplesAtTimestamps(times: Iterable<number>) { for (const time of times) yield sampleAt(frameOf(time)) },
    getSample: async (time: number) => sampleAt(frameOf(time)),
  }
  const copy = vi.fn(async (media: string) => {
    asked.push(media)
    if (missing.includes(media)) throw new Error('gone')
    return { pictures }
  })
  return { asked, made: { copy } as unknown as Library }
}

describe('the pictures of a plan as it plays', () => {
  it('are those of the source, in order, each let go of when the next one is shown', async () => {
    made.length = 0
    const own = video('r1', 0, 40, 100)
    const pictures = new Pictures(plan(own), library().made, 0, new AbortController().signal)
    await vi.waitFor(() => expect(at(pictures.sample(film(own), 0))).toBe(100))
    await vi.waitFor(() => expect(at(pictures.sample(film(own), 3))).toBe(103))
    expect(made.filter((each) => each.closed).map((each) => each.at)).toEqual([100, 101, 102])
    expect(at(pictures.sample(film(own), 3))).toBe(103)
  })

  it('are decoded no further ahead than is soon seen', async () => {
    made.length = 0
    const own = video('r1', 0, 400, 0)
    const pictures = new Pictures(plan(own), library().made, 0, new AbortController().signal)
    await vi.waitFor(() => expect(made.length).toBeGreaterThan(10))
    await new Promise((done) => setTimeout(done))
    expect(made.length).toBeLessThan(25)
    await vi.waitFor(() => expect(at(pictures.sample(film(own), 10))).toBe(10))
    await vi.waitFor(() => expect(made.length).toBeGreaterThan(25))
  })

  it('are opened shortly before they are seen, and closed when they are over', async () => {
    made.length = 0
    const [first, later] = [video('r1', 0, 50, 0), video('r2', 200, 300, 0)]
    const { asked, made: from } = library()
    const pictures = new Pictures(plan(first, later), from, 0, new AbortController().signal)
    await vi.waitFor(() => expect(at(pictures.sample(film(first), 0))).toBe(0))
    expect(asked).toEqual(['r1'])
    pictures.at(160)
    expect(asked).toEqual(['r1', 'r2'])
    expect(pictures.sample(film(first), 160)).toBeUndefined()
    expect(made.filter((each) => !each.closed).every((each) => each.at >= 0)).toBe(true)
    await vi.waitFor(() => expect(at(pictures.sample(film(later), 200))).toBe(0))
    pictures.close()
    await vi.waitFor(() => expect(made.every((each) => each.closed)).toBe(true)) // what was being decoded too
  })

  it('begin amid a layer where playing does, and end when it is stopped', async () => {
    made.length = 0
    const run = new AbortController()
    const own = video('r1', 0, 400, 0)
    const pictures = new Pictures(plan(own), library().made, 90, run.signal)
    await vi.waitFor(() => expect(at(pictures.sample(film(own), 90))).toBe(90))
    run.abort()
    const before = made.length
    pictures.at(95)
    pictures.sample(film(own), 95)
    await new Promise((done) => setTimeout(done))
    expect(made.length).toBeLessThanOrEqual(before + 1)
  })

  it('are left out where a recording is gone', async () => {
    const own = video('gone', 0, 40, 0)
    const pictures = new Pictures(plan(own), library(['gone']).made, 0, new AbortController().signal)
    await new Promise((done) => setTimeout(done))
    expect(pictures.sample(film(own), 5)).toBeUndefined()
  })

  it('are decoded of what stands in the place of a screen, too', async () => {
    made.length = 0
    const behind = { type: 'video', media: 'r2', knots: [{ frame: 0, source: 50 }] } as Film
    const own = { ...video('r1', 0, 40, 0), keyed: { screen: {}, ground: { source: behind } } } as unknown as PictureLayer
    const pictures = new Pictures(plan(own), library().made, 0, new AbortController().signal)
    await vi.waitFor(() => expect([film(own), behind].map((each) => at(pictures.sample(each, 0)))).toEqual([0, 50]))
    pictures.at(40)
    await vi.waitFor(() => expect(made.every((each) => each.closed)).toBe(true))
    const shown = await stillOf(plan(own), [own], 7, library().made)
    expect(at(shown.get(behind))).toBe(57)
  })

  it('of a place that stands are one of each layer', async () => {
    const layers = [video('r1', 0, 40, 10), video('r2', 0, 40, 70), { first: 0, last: 40, source: { type: 'fill', colour: '#000000' } } as PictureLayer]
    const shown = await stillOf(plan(...layers), layers, 5, library().made)
    expect(layers.map((layer) => at(shown.get(film(layer))))).toEqual([15, 75, undefined])
  })
})
