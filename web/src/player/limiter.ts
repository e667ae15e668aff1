export const REACH = 240 // samples, as in core/render/limiter.py
/** Samples by which what comes out is behind what goes in. */
export const DELAY = 2 * REACH

/**
 * Keeps peaks under a ceiling, block by block. The gain that a sample needs is held for REACH samples on either side and
 * then averaged over as many.
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

  constructor(private readonly ceiling: number, channels: number) {
    this.waiting = Array.from({ length: channels }, () => new Float32Array(DELAY))
  }

  /** Take in one sample of each channel, and give out those that went in DELAY samples before. */
  process(input: readonly Float32Array[], output: readonly Float32Array[], count: number) {
    for (let k = 0; k < count; k++, this.n++) {
      let peak = 0
      for (let c = 0; c < this.waiting.length; c++) peak = Math.max(peak, Math.abs((input[c] ?? input[0])?.[k] ?? 0))
      const gain = this.next(Math.min(1, this.ceiling / Math.max(peak, 1e-9)))
      const at = this.n % DELAY
      this.waiting.forEach((ring, c) => {
        const sound = ring[at]!
        ring[at] = (input[c] ?? input[0])?.[k] ?? 0
        if (output[c]) output[c][k] = sound * gain
      })
    }
  }

  /** The gain for the sample of DELAY ago, now that this one's need is known. */
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
