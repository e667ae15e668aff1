import type { PictureLayer } from './timeline'

export type Keyed = NonNullable<PictureLayer['keyed']>
type Screen = Keyed['screen']

const GREY = 128
const ASIDE = 0.6 // as hovvet/core/colour/keying.py has them, and held to it (tests/golden)
const AROUND = 2
const FLAT = 6.5
const SURE = 6

interface Tables { share: Uint8Array; blue: Uint8Array; red: Uint8Array }

const known = new Map<string, Tables>()
const MOST = 8 // screens whose tables are kept

/** By `Cb * 256 + Cr`: how much of a pixel is screen (255: nothing else), and what is left of its Cb and Cr. */
export function tablesOf(screen: Screen): Tables {
  const key = JSON.stringify(screen)
  let made = known.get(key)
  if (!made) {
    made = tables(screen)
    if (known.size >= MOST) known.delete(known.keys().next().value!)
    known.set(key, made)
  }
  return made
}

function tables({ blue: keyBlue, red: keyRed, reach, softness, spill }: Screen): Tables {
  const made = { share: new Uint8Array(65536), blue: new Uint8Array(65536), red: new Uint8Array(65536) }
  const [u, v] = [keyBlue! - GREY, keyRed! - GREY]
  const strong = Math.max(u * u + v * v, 1)
  const full = 1 - reach!
  const least = full * (1 - softness!)
  for (let place = 0; place < 65536; place++) {
    const [cb, cr] = [place >> 8, place & 255]
    const along = ((cb - GREY) * u + (cr - GREY) * v) / strong
    const aside = Math.abs((cb - GREY) * v - (cr - GREY) * u) / strong
    const share = snapped(Math.round(Math.min(Math.max((along - ASIDE * aside - least) / (full - least), 0), 1) * 255)) / 255
    const spilt = share < 1 ? Math.max(along - share, 0) * spill! : 0
    made.share[place] = Math.round(share * 255)
    if (share < 1) {
      made.blue[place] = bounded(cb - share * (GREY + u) - spilt * u)
      made.red[place] = bounded(cr - share * (GREY + v) - spilt * v)
    }
  }
  return made
}

const snapped = (share: number) => (share < SURE ? 0 : share >= 256 - SURE ? 255 : share)
const bounded = (value: number) => Math.min(Math.max(Math.round(value), 0), 255)

/** Take a screen out of pixels, and put those of the `ground` in its place; without one they may be seen through there. `quickly`
 *  where it passes by: the light then does not tell where the edge is. */
export function takeOut(image: ImageData, screen: Screen, ground: Uint8ClampedArray | null, quickly: boolean) {
  const { data, width, height } = image
  const { share, blue, red } = tablesOf(screen)
  const lights = new Float32Array(width * height)
  const places = new Uint16Array(width * height)
  for (let n = 0, at = 0; n < lights.length; n++, at += 4) {
    const r = data[at]!, g = data[at + 1]!, b = data[at + 2]!
    const luma = 0.2126 * r + 0.7152 * g + 0.0722 * b
    lights[n] = 16 + luma * (219 / 255)
    places[n] = (bounded(GREY + ((b - luma) / 1.8556) * (224 / 255)) << 8) | bounded(GREY + ((r - luma) / 1.5748) * (224 / 255))
  }
  const guided = quickly ? null : guide(lights, places, share, width, height)
  const [left, right, top, bottom] = [screen.left! * width, screen.right! * width, screen.top! * height, screen.bottom! * height]
  for (let y = 0, n = 0; y < height; y++) {
    const outside = y + 0.5 < top || y + 0.5 > bottom
    for (let x = 0; x < width; x++, n++) {
      const at = n * 4
      const beyond = outside || x + 0.5 < left || x + 0.5 > right
      const own = beyond ? 255 : guided ? guided[n]! : share[places[n]!]!
      if (own === 0 && !ground && share[places[n]!] === 0 && screen.spill === 0) continue
      let r = 0, g = 0, b = 0
      if (own < 255) {
        const coloured = 255 - share[places[n]!]!
        const light = (Math.max(lights[n]! - (own / 255) * screen.light!, 0) - 16 * (1 - own / 255)) * (255 / 219)
        const cb = (blue[places[n]!]! - (GREY * coloured) / 255) * ((255 / 224) * 1.8556)
        const cr = (red[places[n]!]! - (GREY * coloured) / 255) * ((255 / 224) * 1.5748)
        r = light + cr
        b = light + cb
        g = (light - 0.2126 * r - 0.0722 * b) / 0.7152
      }
      if (ground) {
        const part = own / 255
        data[at] = r + ground[at]! * part
        data[at + 1] = g + ground[at + 1]! * part
        data[at + 2] = b + ground[at + 2]! * part
      } else {
        const covers = 1 - own / 255
        data[at] = covers ? r / covers : 0
        data[at + 1] = covers ? g / covers : 0
        data[at + 2] = covers ? b / covers : 0
        data[at + 3] = 255 - own
      }
    }
  }
}

/** The share of the screen in each pixel: of half the size, as chroma is, and enlarged so that it changes where the light does. */
function guide(lights: Float32Array, places: Uint16Array, share: Uint8Array, width: number, height: number): Uint8Array {
  const [w, h] = [width >> 1, height >> 1]
  const light = new Float32Array(w * h), own = new Float32Array(w * h), both = new Float32Array(w * h), squares = new Float32Array(w * h)
  for (let y = 0, n = 0; y < h; y++) {
    for (let x = 0; x < w; x++, n++) {
      const four = [2 * y * width + 2 * x, 2 * y * width + 2 * x + 1, (2 * y + 1) * width + 2 * x, (2 * y + 1) * width + 2 * x + 1] as const
      light[n] = (lights[four[0]]! + lights[four[1]]! + lights[four[2]]! + lights[four[3]]!) / 4
      let [cb, cr] = [0, 0]
      for (const place of four) {
        cb += places[place]! >> 8
        cr += places[place]! & 255
      }
      own[n] = share[(Math.round(cb / 4) << 8) | Math.round(cr / 4)]!
      both[n] = light[n]! * own[n]!
      squares[n] = light[n]! * light[n]!
    }
  }
  for (const each of [light, own, both, squares]) blur(each, w, h)
  const slope = both, rest = squares
  for (let n = 0; n < slope.length; n++) {
    slope[n] = (both[n]! - light[n]! * own[n]!) / (squares[n]! - light[n]! * light[n]! + FLAT)
    rest[n] = own[n]! - slope[n]! * light[n]!
  }
  blur(slope, w, h)
  blur(rest, w, h)
  const made = new Uint8Array(width * height)
  for (let y = 0, n = 0; y < height; y++) {
    const [y0, y1, down] = between(y, h)
    for (let x = 0; x < width; x++, n++) {
      const [x0, x1, across] = between(x, w)
      const at = (of: Float32Array) => {
        const upper = of[y0 * w + x0]! * (1 - across) + of[y0 * w + x1]! * across
        const lower = of[y1 * w + x0]! * (1 - across) + of[y1 * w + x1]! * across
        return upper * (1 - down) + lower * down
      }
      made[n] = snapped(bounded(at(slope) * lights[n]! + at(rest)))
    }
  }
  return made
}

/** The two pixels of half the size between which one lies, and how far from the first. */
function between(at: number, most: number): [number, number, number] {
  const place = Math.min(Math.max((at + 0.5) / 2 - 0.5, 0), most - 1)
  const first = Math.floor(place)
  return [first, Math.min(first + 1, most - 1), place - first]
}

/** The mean over a square around each pixel, in place. */
function blur(plane: Float32Array, width: number, height: number) {
  lines(plane, height, width, width, 1)
  lines(plane, width, height, 1, width)
}

function lines(plane: Float32Array, count: number, length: number, next: number, step: number) {
  const line = new Float32Array(length)
  for (let k = 0; k < count; k++) {
    const from = k * next
    for (let n = 0; n < length; n++) line[n] = plane[from + n * step]!
    for (let n = 0; n < length; n++) {
      let sum = 0
      for (let d = -AROUND; d <= AROUND; d++) sum += line[mirrored(n + d, length)]!
      plane[from + n * step] = sum / (2 * AROUND + 1)
    }
  }
}

const mirrored = (at: number, length: number) => Math.min(Math.max(at < 0 ? -at : at >= length ? 2 * length - 2 - at : at, 0), length - 1)
