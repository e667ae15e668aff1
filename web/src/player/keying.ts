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

/** Take a screen out of pixels: they may be seen through there. `quickly` where it passes by: by the nearest of a coarse grid of
 *  colours, and the light does not tell where the edge is. */
export function takeOut(image: ImageData, screen: Screen, quickly: boolean) {
  if (quickly) return takeOutQuickly(image, screen)
  const { data, width, height } = image
  const tables = tablesOf(screen)
  const { share } = tables
  const lights = new Float32Array(width * height)
  const places = new Uint16Array(width * height)
  for (let n = 0, at = 0; n < lights.length; n++, at += 4) {
    const luma = lumaOf(data[at]!, data[at + 1]!, data[at + 2]!)
    lights[n] = 16 + luma * (219 / 255)
    places[n] = placeOf(data[at]!, data[at + 2]!, luma)
  }
  const guided = guide(lights, places, share, width, height)
  const inside = within(screen, width, height)
  const left = new Float32Array(3)
  for (let y = 0, n = 0; y < height; y++) {
    for (let x = 0; x < width; x++, n++) {
      const own = inside(x, y) ? guided[n]! : 255
      leftOf(lights[n]!, places[n]!, own, screen.light!, tables, left)
      put(data, n * 4, left[0]!, left[1]!, left[2]!, own)
    }
  }
}

const lumaOf = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b
const placeOf = (r: number, b: number, luma: number) =>
  (bounded(GREY + ((b - luma) / 1.8556) * (224 / 255)) << 8) | bounded(GREY + ((r - luma) / 1.5748) * (224 / 255))

/** What is left of a pixel of which `own` of 255 is screen: R, G, B times how much it covers. `screen` is the light of that. */
function leftOf(light: number, place: number, own: number, screen: number, { share, blue, red }: Tables, left: Float32Array) {
  if (own === 255) return void left.fill(0)
  const coloured = (GREY * (255 - share[place]!)) / 255
  const luma = (Math.max(light - (own / 255) * screen, 0) - 16 * (1 - own / 255)) * (255 / 219)
  left[0] = luma + (red[place]! - coloured) * ((255 / 224) * 1.5748)
  left[2] = luma + (blue[place]! - coloured) * ((255 / 224) * 1.8556)
  left[1] = (luma - 0.2126 * left[0] - 0.0722 * left[2]) / 0.7152
}

/** A pixel by what is left of it. */
function put(data: Uint8ClampedArray, at: number, r: number, g: number, b: number, own: number) {
  const covers = 255 - own
  if (covers) {
    data[at] = (r * 255) / covers
    data[at + 1] = (g * 255) / covers
    data[at + 2] = (b * 255) / covers
  }
  data[at + 3] = covers
}

/** Whether a pixel is in the frame of a screen. */
function within(screen: Screen, width: number, height: number) {
  const [left, right, top, bottom] = [screen.left! * width, screen.right! * width, screen.top! * height, screen.bottom! * height]
  return (x: number, y: number) => x + 0.5 >= left && x + 0.5 <= right && y + 0.5 >= top && y + 0.5 <= bottom
}

const STEPS = 64 // colours of the coarse grid in each direction
const coarse = new Map<string, Int16Array>()

/** For each colour of a coarse grid: how much of it is screen, and by how much what is left of it differs from it. */
function coarseOf(screen: Screen): Int16Array {
  const key = JSON.stringify(screen)
  let made = coarse.get(key)
  if (made) return made
  made = new Int16Array(STEPS ** 3 * 4)
  const tables = tablesOf(screen)
  const { share } = tables
  const left = new Float32Array(3)
  for (let o = 0, n = 0; n < STEPS ** 3; n++, o += 4) {
    const [r, g, b] = [(n & 63) * 4 + 2, ((n >> 6) & 63) * 4 + 2, (n >> 12) * 4 + 2]
    const luma = lumaOf(r, g, b)
    const place = placeOf(r, b, luma)
    leftOf(16 + luma * (219 / 255), place, share[place]!, screen.light!, tables, left)
    made[o] = left[0]! - r
    made[o + 1] = left[1]! - g
    made[o + 2] = left[2]! - b
    made[o + 3] = share[place]!
  }
  coarse.clear() // one screen passes by at a time
  coarse.set(key, made)
  return made
}

function takeOutQuickly({ data, width, height }: ImageData, screen: Screen) {
  const table = coarseOf(screen)
  const inside = within(screen, width, height)
  const framed = screen.left! > 0 || screen.top! > 0 || screen.right! < 1 || screen.bottom! < 1
  for (let at = 0, n = 0; at < data.length; at += 4, n++) {
    const r = data[at]!, g = data[at + 1]!, b = data[at + 2]!
    const o = (((b >> 2) << 12) | ((g >> 2) << 6) | (r >> 2)) << 2
    const own = framed && !inside(n % width, (n / width) | 0) ? 255 : table[o + 3]!
    if (own === 255) data[at + 3] = 0
    else put(data, at, r + table[o]!, g + table[o + 1]!, b + table[o + 2]!, own)
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
