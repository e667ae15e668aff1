import type { VideoSample } from 'mediabunny'
import type { Library } from './library'
import { filmsOf, fps, sourceFrame, type Film, type PictureLayer, type Plan } from './timeline'

const QUEUE = 18 // frames decoded ahead for each layer
const AHEAD = 45 // frames before a layer begins from which on its own are decoded

interface Shown { frame: number; sample: VideoSample }

/** A film, and the frames over which it is shown. */
interface Showing { film: Film; first: number; last: number }

const showings = (layer: PictureLayer): Showing[] => filmsOf(layer).map((film) => ({ film, first: layer.first, last: layer.last }))

/** When of a film (seconds) something is shown at a frame. */
const momentOf = (plan: Plan, film: Film, frame: number) => (Math.max(sourceFrame(film.knots, frame), 0) + 0.25) / fps(plan)

/** The moments of a film that are shown from a frame on. */
function* moments(plan: Plan, { film, first, last }: Showing, from: number): Generator<number> {
  for (let frame = Math.max(first, from); frame < last; frame++) yield momentOf(plan, film, frame)
}

/** The decoded frames of one film, a few ahead of what is shown. */
class Feed {
  private queue: Shown[] = []
  private wake: (() => void) | null = null
  private current: VideoSample | undefined
  private over = false // it is let go of: what is still being decoded is not kept

  constructor(private readonly showing: Showing, private readonly plan: Plan, library: Library, from: number, private readonly signal: AbortSignal) {
    void this.run(library, from)
  }

  /** The frame to show now; those before it are let go of. */
  at(frame: number): VideoSample | undefined {
    while (this.queue.length && this.queue[0]!.frame <= frame) {
      this.current?.close()
      this.current = this.queue.shift()!.sample
    }
    this.wake?.()
    return this.current
  }

  close() {
    this.over = true
    this.current?.close()
    this.current = undefined
    for (const each of this.queue) each.sample.close()
    this.queue = []
    this.wake?.()
  }

  private get ended() {
    return this.over || this.signal.aborted
  }

  private async run(library: Library, from: number) {
    const copy = await library.copy(this.showing.film.media).catch(() => null)
    if (!copy?.pictures || this.signal.aborted) return
    let frame = Math.max(this.showing.first, from)
    try {
      for await (const sample of copy.pictures.samplesAtTimestamps(moments(this.plan, this.showing, from))) {
        while (!this.ended && this.queue.length >= QUEUE) await new Promise<void>((wake) => (this.wake = wake))
        if (this.ended) {
          sample?.close()
          return
        }
        if (sample) this.queue.push({ frame, sample })
        frame++
      }
    } catch (error) {
      if (!this.ended) throw error // otherwise it was closed while it was being read
    }
  }
}

/** The pictures of a plan as it plays: films are decoded shortly before they are seen, and let go of after. */
export class Pictures {
  private feeds = new Map<Film, { last: number; feed: Feed }>()
  private waiting: Showing[]

  constructor(private readonly plan: Plan, private readonly library: Library, private readonly from: number, private readonly signal: AbortSignal) {
    this.waiting = (plan.picture ?? []).filter((layer) => layer.last > from).flatMap(showings)
    this.waiting.sort((a, b) => a.first - b.first)
    this.at(from)
  }

  /** Open what is seen soon, and close what is over. */
  at(frame: number) {
    while (this.waiting.length && this.waiting[0]!.first <= frame + AHEAD) {
      const showing = this.waiting.shift()!
      this.feeds.set(showing.film, { last: showing.last, feed: new Feed(showing, this.plan, this.library, this.from, this.signal) })
    }
    for (const [film, { last, feed }] of this.feeds) {
      if (last <= frame) {
        feed.close()
        this.feeds.delete(film)
      }
    }
  }

  sample(film: Film, frame: number): VideoSample | undefined {
    return this.feeds.get(film)?.feed.at(frame)
  }

  close() {
    for (const { feed } of this.feeds.values()) feed.close()
    this.feeds.clear()
  }
}

/** The frames of the films of some layers at one output frame, for a picture that stands. They are the caller's to close. */
export async function stillOf(plan: Plan, layers: PictureLayer[], frame: number, library: Library): Promise<Map<Film, VideoSample>> {
  const samples = new Map<Film, VideoSample>()
  await Promise.all(layers.flatMap(filmsOf).map(async (film) => {
    const copy = await library.copy(film.media)
    const sample = await copy?.pictures?.getSample(momentOf(plan, film, frame))
    if (sample) samples.set(film, sample)
  }))
  return samples
}
