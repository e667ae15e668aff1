import type { VideoSample } from 'mediabunny'
import type { Library } from './library'
import { fps, sourceFrame, type PictureLayer, type Plan } from './timeline'

const QUEUE = 18 // frames decoded ahead for each layer
const AHEAD = 45 // frames before a layer begins from which on its own are decoded

interface Shown { frame: number; sample: VideoSample }

/** The moments of its source (seconds) that a layer shows from a frame on. */
function* moments(plan: Plan, layer: PictureLayer, from: number): Generator<number> {
  if (layer.source.type !== 'video') return
  const rate = fps(plan)
  for (let frame = Math.max(layer.first, from); frame < layer.last; frame++) {
    yield (Math.max(sourceFrame(layer.source.knots, frame), 0) + 0.25) / rate
  }
}

/** The decoded frames of one layer, a few ahead of what is shown. */
class Feed {
  private queue: Shown[] = []
  private wake: (() => void) | null = null
  private current: VideoSample | undefined
  private over = false // it is let go of: what is still being decoded is not kept

  constructor(readonly layer: PictureLayer, private readonly plan: Plan, library: Library, from: number, private readonly signal: AbortSignal) {
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
    const source = this.layer.source
    if (source.type !== 'video') return
    const copy = await library.copy(source.media).catch(() => null)
    if (!copy?.pictures || this.signal.aborted) return
    let frame = Math.max(this.layer.first, from)
    try {
      for await (const sample of copy.pictures.samplesAtTimestamps(moments(this.plan, this.layer, from))) {
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

/** The pictures of a plan as it plays: layers are decoded shortly before they are seen, and let go of after. */
export class Pictures {
  private feeds = new Map<PictureLayer, Feed>()
  private waiting: PictureLayer[]

  constructor(private readonly plan: Plan, private readonly library: Library, private readonly from: number, private readonly signal: AbortSignal) {
    this.waiting = (plan.picture ?? []).filter((layer) => layer.last > from && layer.source.type === 'video')
    this.waiting.sort((a, b) => a.first - b.first)
    this.at(from)
  }

  /** Open what is seen soon, and close what is over. */
  at(frame: number) {
    while (this.waiting.length && this.waiting[0]!.first <= frame + AHEAD) {
      const layer = this.waiting.shift()!
      this.feeds.set(layer, new Feed(layer, this.plan, this.library, this.from, this.signal))
    }
    for (const [layer, feed] of this.feeds) {
      if (layer.last <= frame) {
        feed.close()
        this.feeds.delete(layer)
      }
    }
  }

  sample(layer: PictureLayer, frame: number): VideoSample | undefined {
    return this.feeds.get(layer)?.at(frame)
  }

  close() {
    for (const feed of this.feeds.values()) feed.close()
    this.feeds.clear()
  }
}

/** The frames of some layers at one output frame, for a picture that stands. They are the caller's to close. */
export async function stillOf(plan: Plan, layers: PictureLayer[], frame: number, library: Library): Promise<Map<PictureLayer, VideoSample>> {
  const samples = new Map<PictureLayer, VideoSample>()
  await Promise.all(layers.map(async (layer) => {
    if (layer.source.type !== 'video') return
    const copy = await library.copy(layer.source.media)
    const sample = await copy?.pictures?.getSample((Math.max(sourceFrame(layer.source.knots, frame), 0) + 0.25) / fps(plan))
    if (sample) samples.set(layer, sample)
  }))
  return samples
}
