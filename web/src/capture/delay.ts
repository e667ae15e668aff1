const CLICKS = 5, APART = 0.4, LEAD = 0.3 // clicks, and seconds between them and before the first
const LONGEST = 0.38 // seconds: a later echo is not taken for its click
const CLEAR = 6 // times that a click stands out of what else is heard
const FEWEST = 3, ALIKE = 0.002 // of the clicks that have to be heard, and seconds by which they may differ
const TONE = 2000, LASTS = 0.004 // Hz, seconds

/** A click: a few waves that rise and fall. */
export function click(rate: number): Float32Array {
  const count = Math.round(LASTS * rate)
  return Float32Array.from({ length: count }, (_, n) => Math.sin((2 * Math.PI * TONE * n) / rate) * Math.sin((Math.PI * n) / count) ** 2)
}

/** When clicks are to be played, in seconds after the first sample of what is recorded. */
export const clickTimes = Array.from({ length: CLICKS }, (_, n) => LEAD + n * APART)
export const CLICKING = LEAD + CLICKS * APART + LONGEST // seconds that it takes

/**
 * Seconds by which clicks come back later than they were played: the median over all, each where what was recorded is most like
 * one; null where they were not heard.
 */
export function delayOf(recorded: Float32Array, rate: number): number | null {
  const shape = click(rate)
  const found: number[] = []
  for (const at of clickTimes) {
    const first = Math.round(at * rate)
    const count = Math.min(Math.round(LONGEST * rate), recorded.length - first - shape.length)
    let best = 0, place = 0, sum = 0
    for (let lag = 0; lag < count; lag++) {
      let like = 0
      for (let n = 0; n < shape.length; n++) like += recorded[first + lag + n]! * shape[n]!
      const strength = Math.abs(like)
      sum += strength
      if (strength > best) [best, place] = [strength, lag]
    }
    if (count > 0 && best > 1e-4 && best > (CLEAR * sum) / count) found.push(place / rate)
  }
  found.sort((a, b) => a - b)
  const middle = found[Math.floor(found.length / 2)]
  // What else is heard comes whenever it will, clicks are as late each time.
  return middle !== undefined && found.filter((each) => Math.abs(each - middle) <= ALIKE).length >= FEWEST ? middle : null
}
