import { SoundTouchNode } from '@soundtouchjs/audio-worklet'
import processor from '@soundtouchjs/audio-worklet/processor?url'
import { DELAY } from './limiter'
import type { Moment } from './loudness'
import limiter from './limiter.worklet.ts?worker&url'
import type { Library } from './library'
import { shape, slicesFrom, type Plan, type Slice } from './timeline'

const SLICE = 4 // seconds of sound decoded at once
const AHEAD = 6 // seconds of sound kept scheduled
const SOON = 2.5 // seconds of sound decoded before playing begins
const PREROLL = 0.17 // seconds between pressing play and the first sound

interface Ready { slice: Slice; buffer: AudioBuffer; at: number }

/**
 * Plays the sound layers of a plan: every stretch stands on its exact output sample of the audio clock, which is the
 * clock of the picture as well.
 */
export class Mixer {
  private context: AudioContext | null = null
  private out: GainNode | null = null
  private limit: AudioWorkletNode | null = null
  private added: Promise<void> | null = null // the code of the limiter
  muted = false // nothing is heard, of what begins to play from now on
  private behind = 0 // seconds by which it holds the sound back
  private began = 0 // audio clock time at which output second 0 would have been
  private pitch: SoundTouchNode | null = null // brings the pitch back when the speed is not 1

  /** `heard` is told how loud it is, ten times a second while it plays. */
  constructor(private readonly library: Library, private readonly heard: (moment: Moment) => void = () => {}) {}

  /** Seconds of the output that are heard now. */
  time(speed: number): number {
    return this.context ? (this.context.currentTime - this.began) * speed : 0
  }

  /** The audio clock that plans of a rate are played on. */
  clock(rate: number): AudioContext {
    return (this.context ??= new AudioContext({ sampleRate: rate }))
  }

  /** Where on it the output would have begun. */
  get beginning(): number {
    return this.began
  }

  /** Begin to play a plan at `from` seconds; resolves when the clock runs, or the signal was given before. */
  async play(plan: Plan, from: number, speed: number, signal: AbortSignal) {
    const context = this.clock(plan.sample_rate!)
    this.out = context.createGain()
    this.out.gain.value = this.muted ? 0 : 10 ** ((plan.master ?? 0) / 20)
    this.out.connect(await this.limiter(context, plan.peak_db!, await this.speaker(context, speed)))
    await context.resume()
    const rate = context.sampleRate
    const slices = slicesFrom(plan, Math.round(from * rate), SLICE * rate)
    // What is heard soon is decoded before the clock starts: afterwards it would come late.
    const first = slices.filter((each) => each.layer.sample + each.first <= (from + SOON) * rate)
    const ready = await Promise.all((first.length ? first : slices.slice(0, 1)).map((each) => this.decode(each, context)))
    if (signal.aborted) return
    this.began = context.currentTime + PREROLL - from / speed
    for (const each of ready) this.schedule(each, speed)
    void this.feed(slices.slice(ready.length), speed, signal)
  }

  stop() {
    this.out?.disconnect()
    this.out = null
    if (this.limit) this.limit.port.onmessage = null
    this.limit?.port.postMessage('stop')
    this.limit?.disconnect()
    this.limit = null
  }

  close() {
    this.stop()
    void this.context?.close()
    this.context = null
  }

  private async feed(slices: Slice[], speed: number, signal: AbortSignal) {
    for (const slice of slices) {
      const begins = (slice.layer.sample + slice.first) / this.context!.sampleRate
      while (!signal.aborted && begins - this.time(speed) > AHEAD) await new Promise((done) => setTimeout(done, 200))
      if (signal.aborted) return
      const ready = await this.decode(slice, this.context!)
      if (signal.aborted) return
      this.schedule(ready, speed)
    }
  }

  private async decode(slice: Slice, context: AudioContext): Promise<Ready> {
    const { layer, first, count } = slice
    const begins = layer.source_sample + first
    const sides = await this.library.sound(layer.media, begins, count, context)
    const buffer = context.createBuffer(2, count, context.sampleRate)
    sides.forEach((samples, side) => {
      shape(slice, samples)
      buffer.copyToChannel(samples, side)
    })
    return { slice, buffer, at: (layer.sample + first) / context.sampleRate }
  }

  private schedule(ready: Ready, speed: number) {
    if (!this.context || !this.out) return
    const node = this.context.createBufferSource()
    node.buffer = ready.buffer
    node.playbackRate.value = speed
    node.connect(this.out)
    const when = this.began + ready.at / speed - this.behind
    const late = Math.max(this.context.currentTime - when, 0)
    node.start(Math.max(when, 0), late * speed)
    node.onended = () => node.disconnect()
  }

  /** What keeps peaks under the ceiling of the export, on the way to a node. */
  private async limiter(context: AudioContext, ceiling: number, to: AudioNode): Promise<AudioNode> {
    this.behind = 0
    if (!context.audioWorklet) return to // only where the page came over a safe connection
    this.added ??= context.audioWorklet.addModule(limiter)
    await this.added
    this.limit = new AudioWorkletNode(context, 'limiter', {
      outputChannelCount: [2], channelCount: 2, channelCountMode: 'explicit', processorOptions: { ceiling: 10 ** (ceiling / 20) },
    })
    this.limit.port.onmessage = ({ data }: MessageEvent<Moment>) => this.heard(data)
    this.limit.connect(to)
    this.behind = DELAY / context.sampleRate
    return this.limit
  }

  /** Where the sound goes: straight out, or through what keeps the pitch at another speed. */
  private async speaker(context: AudioContext, speed: number): Promise<AudioNode> {
    if (speed === 1) return context.destination
    if (!this.pitch) {
      await SoundTouchNode.register(context, processor)
      this.pitch = new SoundTouchNode({ context })
      this.pitch.connect(context.destination)
    }
    this.pitch.playbackRate.value = speed
    return this.pitch
  }
}
