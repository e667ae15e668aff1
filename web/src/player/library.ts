import { Sounds } from './sounds'
import type { Sides } from './soundtrack'
import type { Plan } from './timeline'
import { WorkingCopy } from './working'

/** Where the media of plans are: working copies of recordings, and sounds that were prepared. */
export interface Addresses {
  recording(media: string): string | null // the address of a working copy; null while there is none
  still(media: string): string // the address of a still picture
  sound(media: string): string | null // the address of a sound that was prepared; null for what is none
  madeOf(media: string): Prepared | null // what a sound is that is stretched; null for any other
}

type Prepared = NonNullable<Plan['prepared']>[number]

/** Which sample of what it is made of is heard at a sample of a stretched sound. */
export function sourceSample({ knots }: Prepared, at: number): number {
  const n = Math.max(knots.findLastIndex(([made]) => made <= at), 0)
  const [made, source] = knots[n]!
  const next = knots[n + 1]
  return Math.max(Math.round(next ? source + ((at - made) * (next[1] - source)) / (next[0] - made) : source), 0)
}

/** The media that a player plays, each opened once and let go of when it is closed. */
export class Library {
  private readonly copies = new Map<string, Promise<WorkingCopy | null>>()
  private readonly made = new Map<string, Promise<AudioBuffer | null>>() // sounds that were prepared
  private readonly sounds = new Sounds()

  constructor(private readonly addresses: Addresses) {}

  /** The working copy of a recording; null while there is none. */
  copy(media: string): Promise<WorkingCopy | null> {
    const known = this.copies.get(media)
    if (known) return known
    const url = this.addresses.recording(media)
    if (!url) return Promise.resolve(null)
    const opening = WorkingCopy.open(url).catch((error: unknown) => {
      this.copies.delete(media)
      throw error
    })
    this.copies.set(media, opening)
    return opening
  }

  /** Samples of a medium, left and right; silence where there is none. */
  async sound(media: string, first: number, count: number, context: BaseAudioContext): Promise<Sides> {
    const url = this.addresses.sound(media)
    if (!url) {
      const copy = this.addresses.recording(media)
      return copy ? this.sounds.read(copy, first, count, context.sampleRate) : [new Float32Array(count), new Float32Array(count)]
    }
    const sides: Sides = [new Float32Array(count), new Float32Array(count)]
    const buffer = await this.prepared(media, url, context)
    const of = buffer ? null : this.addresses.madeOf(media)
    const copy = of && this.addresses.recording(of.recording)
    // While it is being made, what it is made of is heard as it is.
    if (of && copy) return this.sounds.read(copy, sourceSample(of, first), count, context.sampleRate)
    if (buffer) {
      for (const side of [0, 1] as const) {
        sides[side].set(buffer.getChannelData(Math.min(side, buffer.numberOfChannels - 1)).subarray(first, first + count))
      }
    }
    return sides
  }

  /** A prepared sound; null while it is still being made, and then it is asked for again. */
  private prepared(media: string, url: string, context: BaseAudioContext): Promise<AudioBuffer | null> {
    const known = this.made.get(media)
    if (known) return known
    const asking = (async () => {
      const answer = await fetch(url)
      if (answer.ok) return context.decodeAudioData(await answer.arrayBuffer())
      this.made.delete(media)
      return null
    })()
    this.made.set(media, asking)
    return asking
  }

  close() {
    for (const copy of this.copies.values()) void copy.then((each) => each?.close(), () => {})
    this.copies.clear()
    this.made.clear()
    this.sounds.close()
  }
}
