export const LUMA = [0.2126, 0.7152, 0.0722] as const // ITU-R BT.709

/** What a picture has more than its blur, added to it `amount` times, in its light alone: as the export does. */
export function sharpen(data: Uint8ClampedArray, soft: Uint8ClampedArray, amount: number) {
  for (let at = 0; at < data.length; at += 4) {
    const more = amount * (LUMA[0] * (data[at]! - soft[at]!) + LUMA[1] * (data[at + 1]! - soft[at + 1]!) + LUMA[2] * (data[at + 2]! - soft[at + 2]!))
    data[at] = data[at]! + more
    data[at + 1] = data[at + 1]! + more
    data[at + 2] = data[at + 2]! + more
  }
}
