import { SoundTouchNode } from '@soundtouchjs/audio-worklet'
import processor from '@soundtouchjs/audio-worklet/processor?url'
import type { VideoSample } from 'mediabunny'
import { WorkingCopy } from './media'
import { fadeIn, fps, segmentAt, sliceFrom, type Plan, type Slice } from './timeline'

const SLICE = 4 // seconds of sound decoded at once
const AHEAD = 6 // seconds of sound kept scheduled
const PREROLL = 0.15 // seconds between pressing play and the first sound
const QUEUE = 18 // frames decoded ahead

export interface Look {
  /** Show a frame of the recording at a time of the output (seconds). */
  show(sample: VideoSample, seconds: number): void
  /** Called with every new place, playing or not. */
  moved(seconds: number): void
  /** Called when playing begins or ends. */
  playing(playing: boolean): void
}

interface Shown {
  frame: number
  sample: VideoSample
}

/**
 * Plays a plan from a working copy without gaps: every stretch of sound is placed
 * on its exact output sample of the audio clock, and the picture follows that clock.
 */
export class Player {
  private context: AudioContext | null = null
  private gain: GainNode | null = null
  private copy: WorkingCopy | null = null
  private run: AbortController | null = null
  private at = 0 // seconds of the output, while not playing
  private began = 0 // audio clock time at which output second 0 would have been
  private queue: Shown[] = []
  private wake: (() => void) | null = null
  private showing = 0
  private rate = 1 // seconds of the output played in one second
  private pitch: SoundTouchNode | null = null // brings the pitch back when the speed is not 1

  constructor(private plan: Plan, private readonly look: Look) {}

  async open(url: string) {
    this.copy = await WorkingCopy.open(url)
    await this.seek(this.at)
  }

  get playing() {
    return this.run !== null
  }

  get length() {
    return this.plan.samples / this.plan.sample_rate
  }

  get time() {
    if (!this.run || !this.context) return this.at
    return Math.min(Math.max((this.context.currentTime - this.began) * this.rate, 0), this.length)
  }

  /** Play at another speed, 0.5 to 2, with the pitch kept; goes on playing if it was. */
  async setSpeed(rate: number) {
    const wasPlaying = this.playing
    this.stop()
    this.rate = rate
    if (wasPlaying) await this.play()
  }

  /** Play another plan from a place on; goes on playing if it was. */
  async change(plan: Plan, at: number) {
    const wasPlaying = this.playing
    this.stop()
    this.plan = plan
    await this.seek(at)
    if (wasPlaying) await this.play()
  }

  async play() {
    if (this.run || !this.copy || this.plan.samples === 0) return
    if (this.at >= this.length - 0.05) this.at = 0
    const run = new AbortController()
    this.run = run
    this.context ??= new AudioContext({ sampleRate: this.plan.sample_rate })
    this.gain?.disconnect()
    this.gain = this.context.createGain()
    this.gain.gain.value = 10 ** ((this.plan.gain_db ?? 0) / 20)
    this.gain.connect(await this.speaker(this.context))
    if (run.signal.aborted) return
    this.look.playing(true)
    await this.context.resume()
    const first = await this.prepare(Math.round(this.at * this.plan.sample_rate), run.signal)
    if (run.signal.aborted) return
    this.began = this.context.currentTime + PREROLL - this.at / this.rate
    void this.feedSound(first, run.signal)
    void this.feedPicture(Math.floor(this.at * fps(this.plan)), run.signal)
    this.tick(run.signal)
  }

  pause() {
    if (!this.run) return
    const at = this.time
    this.stop()
    void this.seek(at)
  }

  /** Go to a place; shows its frame when not playing. */
  async seek(seconds: number) {
    const target = Math.min(Math.max(seconds, 0), this.length)
    if (this.playing) {
      this.stop()
      this.at = target
      this.look.moved(target)
      await this.play()
      return
    }
    this.at = target
    this.look.moved(target)
    const mine = ++this.showing
    const segment = segmentAt(this.plan, Math.min(target * this.plan.sample_rate, this.plan.samples - 1))
    if (!this.copy?.pictures || !segment) return
    const rate = fps(this.plan)
    const frame = Math.min(Math.floor(target * rate + 1e-6), Math.max(this.plan.frames - 1, 0))
    const source = Math.max(segment.source_frame + frame - segment.frame, 0)
    const sample = await this.copy.pictures.getSample((source + 0.25) / rate)
    if (!sample) return
    if (mine === this.showing && !this.playing) this.look.show(sample, frame / rate)
    sample.close()
  }

  close() {
    this.stop()
    this.copy?.close()
    void this.context?.close()
  }

  private stop() {
    this.at = this.time
    this.run?.abort()
    if (this.run) this.look.playing(false)
    this.run = null
    this.gain?.disconnect()
    for (const each of this.queue) each.sample.close()
    this.queue = []
    this.wake?.()
  }

  /** Where the sound goes: straight out, or through what keeps the pitch at another speed. */
  private async speaker(context: AudioContext): Promise<AudioNode> {
    if (this.rate === 1) return context.destination
    if (!this.pitch) {
      await SoundTouchNode.register(context, processor)
      this.pitch = new SoundTouchNode({ context })
      this.pitch.connect(context.destination)
    }
    this.pitch.playbackRate.value = this.rate
    return this.pitch
  }

  /** Decode the sound of one slice, its joins faded as the export fades them. */
  private async prepare(sample: number, signal: AbortSignal): Promise<{ slice: Slice; buffer: AudioBuffer; at: number } | null> {
    const slice = sliceFrom(this.plan, sample, SLICE * this.plan.sample_rate)
    if (!slice || !this.copy || !this.context) return null
    const half = this.plan.join_samples >> 1
    const before = slice.opens ? half : 0
    const after = slice.closes ? half : 0
    const count = slice.count + before + after
    const first = slice.segment.source_sample + slice.first - before
    const lead = Math.max(-first, 0)
    const [left, right] = await this.copy.sound(first + lead, count - lead, this.plan.sample_rate)
    if (signal.aborted) return null
    const buffer = this.context.createBuffer(2, count, this.plan.sample_rate)
    const ramp = Math.min(2 * half, Math.floor(count / 2))
    const rise = fadeIn(2 * half)
    for (const [side, samples] of [left, right].entries()) {
      const out = buffer.getChannelData(side)
      out.set(samples, lead)
      if (slice.opens) for (let n = 0; n < ramp; n++) out[n]! *= rise[n]!
      if (slice.closes) for (let n = 0; n < ramp; n++) out[count - 1 - n]! *= rise[n]!
    }
    return { slice, buffer, at: slice.segment.sample + slice.first - before }
  }

  private async feedSound(ready: Awaited<ReturnType<Player['prepare']>>, signal: AbortSignal) {
    const rate = this.plan.sample_rate
    while (ready && !signal.aborted) {
      const node = this.context!.createBufferSource()
      node.buffer = ready.buffer
      node.connect(this.gain!)
      node.playbackRate.value = this.rate
      const when = this.began + ready.at / rate / this.rate
      const late = Math.max(this.context!.currentTime - when, 0)
      node.start(Math.max(when, 0), late * this.rate)
      const next = ready.slice.segment.sample + ready.slice.first + ready.slice.count
      while (!signal.aborted && next / rate - this.time > AHEAD) await this.pauseFor(200)
      ready = signal.aborted ? null : await this.prepare(next, signal)
    }
  }

  private async feedPicture(from: number, signal: AbortSignal) {
    if (!this.copy?.pictures) return
    const rate = fps(this.plan)
    for (const segment of this.plan.segments) {
      if (segment.frame + segment.frames <= from || segment.frames === 0) continue
      const skip = Math.max(from - segment.frame, 0)
      const start = (segment.source_frame + skip + 0.25) / rate
      const end = (segment.source_frame + segment.frames - 0.25) / rate
      for await (const sample of this.copy.pictures.samples(start, end)) {
        while (!signal.aborted && this.queue.length >= QUEUE) await new Promise<void>((wake) => (this.wake = wake))
        if (signal.aborted) {
          sample.close()
          return
        }
        this.queue.push({ frame: segment.frame + Math.round(sample.timestamp * rate) - segment.source_frame, sample })
      }
      if (signal.aborted) return
    }
  }

  private tick(signal: AbortSignal) {
    if (signal.aborted) return
    const now = this.time
    const frame = Math.floor(now * fps(this.plan))
    let latest: Shown | undefined
    while (this.queue.length && this.queue[0]!.frame <= frame) {
      latest?.sample.close()
      latest = this.queue.shift()
    }
    if (latest) {
      this.look.show(latest.sample, latest.frame / fps(this.plan))
      latest.sample.close()
      this.wake?.()
    }
    this.look.moved(now)
    if (now >= this.length) {
      this.stop()
      this.at = this.length
      return
    }
    requestAnimationFrame(() => this.tick(signal))
  }

  private pauseFor(milliseconds: number) {
    return new Promise((done) => setTimeout(done, milliseconds))
  }
}
