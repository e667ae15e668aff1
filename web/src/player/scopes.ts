import { LUMA } from './sharpening'

/** How many pixels of each column of a picture are how light: `levels` rows for each column, the lightest first. */
export function waveform(data: Uint8ClampedArray, width: number, levels: number): Uint32Array {
  const counts = new Uint32Array(width * levels)
  for (let at = 0; at < data.length; at += 4) {
    const light = LUMA[0] * data[at]! + LUMA[1] * data[at + 1]! + LUMA[2] * data[at + 2]!
    const row = levels - 1 - Math.min(Math.floor((light / 256) * levels), levels - 1)
    counts[row * width + ((at / 4) % width)]!++
  }
  return counts
}

/** How many pixels have which colour, by ITU-R BT.709: blue to the right, red upwards, grey in the middle of `size` x `size`. */
export function vectorscope(data: Uint8ClampedArray, size: number): Uint32Array {
  const counts = new Uint32Array(size * size)
  const place = (value: number) => Math.min(Math.max(Math.floor((value / 255 + 0.5) * size), 0), size - 1)
  for (let at = 0; at < data.length; at += 4) {
    const [red, green, blue] = [data[at]!, data[at + 1]!, data[at + 2]!]
    const light = LUMA[0] * red + LUMA[1] * green + LUMA[2] * blue
    counts[(size - 1 - place((red - light) / 1.5748)) * size + place((blue - light) / 1.8556)]!++
  }
  return counts
}
