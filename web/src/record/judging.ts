import type { Schemas } from '@/api/client'

export type DeviceLimits = Schemas['DeviceLimits']

/** What is told of a sound, the worst first; "" where all is well. */
export type SoundTrouble = '' | 'nothing' | 'clipped' | 'hum' | 'faint'
export const SOUND_TOLD: Record<Exclude<SoundTrouble, ''>, string> = {
  nothing: 'We hear nothing. Speak; if this stays, choose another microphone, or see whether it is muted.',
  clipped: 'Too loud: it is distorted. Turn the microphone down, or step back.',
  hum: 'It hums. Move the microphone and its cable away from chargers and lamps, or run this computer from its battery.',
  faint: 'You are hard to hear. Come closer to the microphone, or turn it up.',
}
export type PictureTrouble = '' | 'flat' | 'dark'
export const PICTURE_TOLD: Record<Exclude<PictureTrouble, ''>, string> = {
  flat: 'There is nothing to be seen. Open the cover of the lens, or choose another camera.',
  dark: 'It is dark. Put a lamp or a window before you, not behind you.',
}

const MAINS = [50, 60, 100, 120] // Hz
const WINDOW = 0.5 // seconds that are judged at once
const FALLS = 0.9 // of the level shown, from one part to the next

/** Judges what a microphone hears, as it comes. */
export class SoundJudge {
  level = 0 // of what is heard, 0 to 1, falling slowly
  private seconds = 0
  private silentSince = 0
  private clippedAt = -Infinity
  private loudest = 0 // while somebody may have spoken
  private hums = 0 // windows in a row
  private window: Float32Array
  private filled = 0

  constructor(private readonly limits: DeviceLimits, private readonly rate: number) {
    this.window = new Float32Array(Math.round(WINDOW * rate))
  }

  hear(samples: Float32Array) {
    let peak = 0
    for (const value of samples) peak = Math.max(peak, Math.abs(value))
    this.level = Math.max(peak, this.level * FALLS)
    this.seconds += samples.length / this.rate
    if (peak > this.limits.silent) this.silentSince = this.seconds
    if (peak >= this.limits.clipped) this.clippedAt = this.seconds
    this.loudest = Math.max(this.loudest * 0.9995, peak)
    for (let n = 0; n < samples.length; n++) {
      this.window[this.filled++] = samples[n]!
      if (this.filled === this.window.length) {
        this.hums = humOf(this.window, this.rate) > this.limits.hum && rootMeanSquare(this.window) > this.limits.hum_heard ? this.hums + 1 : 0
        this.filled = 0
      }
    }
  }

  /** What there is to tell. */
  trouble(): SoundTrouble {
    if (this.seconds - this.silentSince > this.limits.silent_after) return 'nothing'
    if (this.seconds - this.clippedAt < 2) return 'clipped'
    if (this.hums >= 3) return 'hum'
    if (this.seconds > this.limits.silent_after && this.loudest < this.limits.faint) return 'faint'
    return ''
  }
}

function rootMeanSquare(samples: Float32Array): number {
  let sum = 0
  for (const value of samples) sum += value * value
  return Math.sqrt(sum / samples.length)
}

/** The part of a sound's energy that is at the frequency of the mains, or twice that (Goertzel, 1958). */
export function humOf(samples: Float32Array, rate: number): number {
  const whole = rootMeanSquare(samples) ** 2
  if (!whole) return 0
  const at = (frequency: number) => {
    const turn = 2 * Math.cos((2 * Math.PI * frequency) / rate)
    let one = 0, two = 0
    for (const value of samples) [one, two] = [value + turn * one - two, one]
    return (2 * (one * one + two * two - turn * one * two)) / samples.length ** 2
  }
  const [a, b, c, d] = MAINS.map(at) as [number, number, number, number]
  return Math.max(a + c, b + d) / whole
}

/** What there is to tell of a picture, by its pixels (red, green, blue, opacity, up to 255). */
export function judgePicture(pixels: Uint8ClampedArray, limits: DeviceLimits): PictureTrouble {
  let sum = 0, squares = 0
  const count = pixels.length / 4
  for (let n = 0; n < pixels.length; n += 4) {
    const bright = (0.2126 * pixels[n]! + 0.7152 * pixels[n + 1]! + 0.0722 * pixels[n + 2]!) / 255
    sum += bright
    squares += bright * bright
  }
  const mean = sum / count
  if (Math.sqrt(Math.max(squares / count - mean * mean, 0)) < limits.flat) return 'flat'
  return mean < limits.dark ? 'dark' : ''
}
