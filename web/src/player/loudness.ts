/** How loud a stretch of sound is heard: its weighted power, added up over its channels, and its highest sample. */
export interface Moment { power: number; peak: number }

export const MOMENTS = 10 // a second
// As in core/sound/energy.py: the weighting of ITU-R BS.1770-4 at 48 kHz, and its gates.
const HEAD = Float64Array.of(1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585)
const LOW_CUT = Float64Array.of(1, -2, 1, -1.99004745483398, 0.99007225036621)
const OFFSET = -0.691 // LUFS of a power of 1
const BLOCK = 4 // moments of 100 ms
const ABSOLUTE = -70 // LUFS
const RELATIVE = -10 // LU

/** Listens to a sound as it passes, and tells of each stretch of `step` samples how loud it was. */
export class Listening {
  private readonly state: Float64Array[] // of two filters for each channel
  private power = 0
  private peak = 0
  private n = 0

  constructor(private readonly step: number, channels: number, private readonly tell: (moment: Moment) => void) {
    this.state = Array.from({ length: channels }, () => new Float64Array(4))
  }

  process(sound: readonly Float32Array[], count: number) {
    for (let k = 0; k < count; k++) {
      for (let c = 0; c < this.state.length; c++) {
        const sample = sound[c]?.[k] ?? 0
        this.peak = Math.max(this.peak, Math.abs(sample))
        const state = this.state[c]!
        const heard = filtered(filtered(sample, HEAD, state, 0), LOW_CUT, state, 2)
        this.power += heard * heard
      }
      if (++this.n < this.step) continue
      this.tell({ power: this.power / this.step, peak: this.peak })
      this.power = this.peak = this.n = 0
    }
  }
}

/** A sample through one of the filters; `state` has two numbers of each, from `at` on. On the audio thread nothing is made for it. */
function filtered(value: number, by: Float64Array, state: Float64Array, at: number): number {
  const out = by[0]! * value + state[at]!
  state[at] = by[1]! * value - by[3]! * out + state[at + 1]!
  state[at + 1] = by[2]! * value - by[4]! * out
  return out
}

const lufs = (power: number) => OFFSET + 10 * Math.log10(power)
const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length

/** The loudness in LUFS of the last moments (of 100 ms each), without gates; null for silence. */
export function shortTerm(powers: readonly number[]): number | null {
  const power = powers.length ? mean(powers.slice(-3 * MOMENTS)) : 0
  return power > 10 ** ((ABSOLUTE - OFFSET) / 10) ? lufs(power) : null
}

/** The loudness in LUFS of all of them, gated; null for silence. */
export function integrated(powers: readonly number[]): number | null {
  const blocks = powers.length < BLOCK ? (powers.length ? [mean(powers)] : []) : powers.slice(BLOCK - 1).map((_, n) => mean(powers.slice(n, n + BLOCK)))
  const heard = blocks.filter((each) => each > 10 ** ((ABSOLUTE - OFFSET) / 10))
  if (!heard.length) return null
  const gate = mean(heard) * 10 ** (RELATIVE / 10)
  return lufs(mean(heard.filter((each) => each > gate)))
}
