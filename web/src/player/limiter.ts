// All as in core/render/limiter.py.
export const REACH = 240 // samples
const LOOK = 6 // samples on either side by which it is known how high the sound goes between two
const QUARTER = [-0.0083, 0.019907, -0.04041, 0.078113, -0.167441, 0.900286, 0.292957, -0.111076, 0.056138, -0.028725, 0.013254, -0.004704]
const HALF = [-0.00899, 0.023137, -0.048347, 0.093633, -0.19099, 0.631557]
/** What the sound is a quarter, a half and three quarters of the way to the next sample, by the six before and after. */
export const BETWEEN = [QUARTER, [...HALF, ...HALF.toReversed()], QUARTER.toReversed()].map((each) => Float64Array.from(each))

const AT_MOST = 2 // times the highest sample: more there is not between any two

/** Samples by which what comes out is behind what goes in. */
export const DELAY = 2 * REACH + LOOK

/**
 * Keeps true peaks under a ceiling, block by block. The gain that a sample and its neighbourhood need is held for REACH
 * samples on either side and then averaged over as many.
 */
export class Limiter {
  private readonly window = 2 * REACH + 1
  private readonly waiting: Float32Array[] // a ring of what went in for each channel, DELAY samples of it
  private readonly needs = new Float64Array(this.window).fill(1) // the lowest of the window, as a queue that only rises
  private readonly places = new Float64Array(this.window).fill(-1)
  private head = 0
  private size = 0
  private readonly held = new Float64Array(this.window).fill(1)
  private sum = this.window
  private n = 0
  private readonly leaving: Float32Array
  private readonly near = new Float64Array(2 * LOOK)
  private quiet = 0 // from this sample on none is so high that it has to be looked between them
  private before = 0 // how high the sound goes between the last sample looked at and the one before it

  constructor(private readonly ceiling: number, channels: number) {
    this.waiting = Array.from({ length: channels }, () => new Float32Array(DELAY))
    this.leaving = new Float32Array(channels)
  }

  /** How high the sound goes at the sample of LOOK ago, and on either side of it. */
  private peak(): number {
    let own = 0
    let after = 0
    const first = (this.n + 1 + DELAY - 2 * LOOK) % DELAY // of those that tell it; all are in the rings
    for (let c = 0; c < this.waiting.length; c++) {
      const ring = this.waiting[c]!
      for (let k = 0; k < 2 * LOOK; k++) {
        const at = first + k
        this.near[k] = ring[at < DELAY ? at : at - DELAY]!
      }
      own = Math.max(own, Math.abs(this.near[LOOK - 1]!))
      if (this.n >= this.quiet) continue // it stays under the ceiling between samples as well
      for (let b = 0; b < BETWEEN.length; b++) {
        const weights = BETWEEN[b]!
        let sum = 0
        for (let k = 0; k < 2 * LOOK; k++) sum += weights[k]! * this.near[k]!
        after = Math.max(after, Math.abs(sum))
      }
    }
    const peak = Math.max(own, this.before, after)
    this.before = after
    return peak
  }

  /** Take in one sample of each channel, and give out those that went in DELAY samples before. */
  process(input: readonly Float32Array[], output: readonly Float32Array[], count: number) {
    for (let k = 0; k < count; k++, this.n++) {
      const at = this.n % DELAY
      for (let c = 0; c < this.waiting.length; c++) {
        const ring = this.waiting[c]!
        this.leaving[c] = ring[at]!
        const sample = (input[c] ?? input[0])?.[k] ?? 0
        ring[at] = sample
        if (Math.abs(sample) * AT_MOST > this.ceiling) this.quiet = this.n + 2 * LOOK
      }
      const gain = this.next(Math.min(1, this.ceiling / Math.max(this.peak(), 1e-9)))
      for (let c = 0; c < this.waiting.length; c++) if (output[c]) output[c]![k] = this.leaving[c]! * gain
    }
  }

  /** The gain for the sample of DELAY ago, now that the need of LOOK ago is known. */
  private next(need: number): number {
    const { window } = this
    while (this.size && this.needs[(this.head + this.size - 1) % window]! >= need) this.size--
    const place = (this.head + this.size) % window
    this.needs[place] = need
    this.places[place] = this.n
    this.size++
    if (this.places[this.head]! <= this.n - window) {
      this.head = (this.head + 1) % window
      this.size--
    }
    const low = this.needs[this.head]!
    const ring = this.n % window
    this.sum += low - this.held[ring]!
    this.held[ring] = low
    if (ring === 0) this.sum = this.held.reduce((sum, value) => sum + value, 0) // rounding does not add up
    return this.sum / window
  }
}
