import type { VideoSample } from 'mediabunny'
import { Compositor, type SampleOf, type SizeOf } from './compositor'
import { Grades } from './grades'
import { Library, type Addresses } from './library'
import type { Moment } from './loudness'
import { Mixer } from './mixer'
import { Pictures, stillOf } from './pictures'
import { Stills } from './stills'
import { fps, lengthOf, type Film, type Plan } from './timeline'
import { visibleAt } from './visible'

export interface Listener {
  /** Called with every new place, playing or not. */
  moved(seconds: number): void
  /** Called when playing begins or ends. */
  playing(playing: boolean): void
  /** Called with how loud it is, ten times a second while it plays. */
  heard(moment: Moment): void
}

export interface Stage {
  canvas: HTMLCanvasElement
  sizeOf: SizeOf
  addresses: Addresses
  framed: boolean // false shows recordings as they are
}

/**
 * Plays a plan without gaps: its sound stands on the audio clock, and its picture follows that clock. The library holds
 * the media, the mixer the sound, the compositor the canvas; this one only tells them what is when.
 */
export class Player {
  private readonly library: Library
  private readonly mixer: Mixer
  private readonly grades = new Grades()
  private readonly stills: Stills
  private readonly compositor: Compositor
  private pictures: Pictures | null = null
  private run: AbortController | null = null
  private at = 0 // seconds of the output, while not playing
  private started = false // the clock runs
  private showing = 0
  private closed = false
  private drawn = -1
  private speed = 1 // seconds of the output played in one second

  constructor(private plan: Plan, private readonly stage: Stage, private readonly listener: Listener) {
    this.library = new Library(stage.addresses)
    this.mixer = new Mixer(this.library, (moment) => listener.heard(moment))
    this.stills = new Stills(stage.addresses.still)
    this.compositor = new Compositor(stage.canvas, stage.sizeOf, this.grades, this.stills)
    this.compositor.clear(plan.ground!)
  }

  /** Open what is shown first; resolves when it can be played. The rest is opened meanwhile, so that it is there in time. */
  async open() {
    const media = [...new Set((this.plan.stretches ?? []).flatMap((each) => each.recording ?? []))]
    if (media[0]) await this.library.copy(media[0])
    for (const each of media.slice(1)) void this.library.copy(each).catch(() => null)
    await this.seek(this.at)
  }

  get playing() {
    return this.run !== null
  }

  get time() {
    if (!this.run || !this.started) return this.at
    return Math.min(Math.max(this.mixer.time(this.speed), 0), lengthOf(this.plan))
  }

  /** The clock on which it is heard, and where on it the output began; null while it does not play. */
  get clock(): { context: AudioContext; began: number | null } {
    return { context: this.mixer.clock(this.plan.sample_rate!), began: this.started && this.run ? this.mixer.beginning : null }
  }

  set muted(muted: boolean) {
    this.mixer.muted = muted
  }

  /** Show colours as they are set, or as they were filmed. */
  async setColoured(coloured: boolean) {
    this.compositor.coloured = coloured
    if (!this.playing) await this.seek(this.at)
  }

  /** Play at another speed, 0.5 to 2, with the pitch kept; goes on playing if it was. */
  async setSpeed(speed: number) {
    const wasPlaying = this.playing
    this.stop()
    this.speed = speed
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
    if (this.run || this.plan.samples === 0) return
    if (this.at >= lengthOf(this.plan) - 0.05) this.at = 0
    const run = new AbortController()
    this.run = run
    this.started = false
    this.listener.playing(true)
    this.pictures = new Pictures(this.plan, this.library, Math.floor(this.at * fps(this.plan) + 1e-6), run.signal)
    await Promise.all([this.grades, this.stills].map((each) => each.ready(this.plan.picture ?? [])))
    await this.mixer.play(this.plan, this.at, this.speed, run.signal)
    if (run.signal.aborted) return
    this.started = true
    this.drawn = -1
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
    const target = Math.min(Math.max(seconds, 0), lengthOf(this.plan))
    if (this.playing) {
      this.stop()
      this.at = target
      this.listener.moved(target)
      await this.play()
      return
    }
    this.at = target
    this.listener.moved(target)
    const mine = ++this.showing
    delete this.stage.canvas.dataset.frame // until it is there
    const plan = this.plan
    const frame = Math.min(Math.floor(target * fps(plan) + 1e-6), Math.max(plan.frames - 1, 0))
    const layers = visibleAt(plan, frame)
    const [samples] = await Promise.all([stillOf(plan, layers, frame, this.library), this.grades.ready(layers), this.stills.ready(layers)]).catch((error: unknown) => {
      if (!this.closed) throw error
      return [new Map<Film, VideoSample>()] // what it was reading has been closed under it
    })
    if (mine === this.showing && !this.playing) this.paint(frame, (film) => samples.get(film))
    for (const sample of samples.values()) sample.close()
  }

  close() {
    this.closed = true
    this.stop()
    this.library.close()
    this.stills.close()
    this.mixer.close()
  }

  private paint(frame: number, sampleOf: SampleOf) {
    if (this.stage.framed) {
      this.compositor.draw(this.plan, frame, sampleOf, this.playing)
    } else {
      const top = visibleAt(this.plan, frame).at(-1)
      const sample = top?.source.type === 'video' && sampleOf(top.source)
      if (sample) this.compositor.plain(sample)
    }
    this.stage.canvas.dataset.frame = String(frame)
  }

  private stop() {
    this.at = this.time
    this.run?.abort()
    if (this.run) this.listener.playing(false)
    this.run = null
    this.mixer.stop()
    this.pictures?.close()
    this.pictures = null
  }

  private tick(signal: AbortSignal) {
    if (signal.aborted) return
    const now = this.time
    const frame = Math.min(Math.floor(now * fps(this.plan) + 1e-6), Math.max(this.plan.frames - 1, 0))
    if (frame !== this.drawn) {
      this.pictures?.at(frame)
      this.paint(frame, (film) => this.pictures?.sample(film, frame))
      this.drawn = frame
    }
    this.listener.moved(now)
    if (now >= lengthOf(this.plan)) {
      this.stop()
      this.at = lengthOf(this.plan)
      return
    }
    requestAnimationFrame(() => this.tick(signal))
  }
}
