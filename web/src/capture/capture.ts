import type { Heard } from './microphone'

/**
 * Which samples of a microphone belong to a recording: those from where it began up to where it was stopped, without those in
 * between where it was paused. Places are samples of the audio clock.
 */
export class Capture {
  private from = Infinity
  private to = Infinity
  /** Where the first sample stood on the clock; null before there is one. */
  first: number | null = null
  /** How many there are. */
  count = 0

  /** Begin, or go on, at a place. */
  begin(at: number) {
    this.from = at
    this.to = Infinity
  }

  /** Pause, or stop, at a place. */
  stop(at: number) {
    this.to = at
  }

  /** Those of some samples that belong to it; null for none. */
  take({ at, heard }: Heard): Float32Array | null {
    const first = Math.min(Math.max(Math.round(this.from) - at, 0), heard.length)
    const last = Math.min(Math.max(Math.round(this.to) - at, 0), heard.length)
    if (last <= first) return null
    this.first ??= at + first
    this.count += last - first
    return heard.subarray(first, last)
  }
}
