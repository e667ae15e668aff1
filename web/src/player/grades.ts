import type { PictureLayer } from './timeline'

export type Grade = NonNullable<PictureLayer['look']>

const POINTS = 33 // of the table in each direction, as the server sends it
const STEPS = 64 // of the coarser one, for pictures that pass by

interface Table { exact: Uint8Array; quick: Int16Array }

const keyOf = (grade: Grade) => new URLSearchParams(Object.entries(grade).map(([name, value]) => [name, String(value)])).toString()

/** The colour tables of a plan: fetched once, then applied to pictures. */
export class Grades {
  private readonly tables = new Map<string, Promise<Table | null>>()
  private readonly known = new Map<string, Table>()

  /** Resolves when the tables of some layers are here; one that cannot be had is left out. */
  async ready(layers: readonly PictureLayer[]) {
    await Promise.all(layers.flatMap((layer) => (layer.look ? [this.fetched(keyOf(layer.look))] : [])))
  }

  private fetched(key: string): Promise<Table | null> {
    let table = this.tables.get(key)
    if (!table) {
      table = load(key).then((made) => {
        if (made) this.known.set(key, made)
        else this.tables.delete(key) // to be tried again
        return made
      })
      this.tables.set(key, table)
    }
    return table
  }

  /** Give a picture the colours of a grade; `quickly` where it passes by. */
  apply(context: CanvasRenderingContext2D, grade: Grade, quickly: boolean) {
    const table = this.known.get(keyOf(grade))
    if (!table) return
    const { width, height } = context.canvas
    const image = context.getImageData(0, 0, width, height)
    if (quickly) shift(image.data, table.quick)
    else interpolate(image.data, table.exact)
    context.putImageData(image, 0, 0)
  }
}

async function load(key: string): Promise<Table | null> {
  const answer = await fetch(`/api/colour/table?${key}`).catch(() => null)
  if (!answer?.ok) return null
  const exact = new Uint8Array(await answer.arrayBuffer())
  return exact.length === POINTS ** 3 * 3 ? { exact, quick: coarse(exact) } : null
}

/** Colours by a table: straight lines between its points, in all three directions. */
export function interpolate(data: Uint8ClampedArray, table: Uint8Array) {
  const scale = (POINTS - 1) / 255
  for (let at = 0; at < data.length; at += 4) {
    const r = data[at]! * scale, g = data[at + 1]! * scale, b = data[at + 2]! * scale
    const r0 = Math.min(r | 0, POINTS - 2), g0 = Math.min(g | 0, POINTS - 2), b0 = Math.min(b | 0, POINTS - 2)
    const fr = r - r0, fg = g - g0, fb = b - b0
    const o = ((b0 * POINTS + g0) * POINTS + r0) * 3
    for (let k = 0; k < 3; k++) {
      const p = o + k
      const front = mix(table[p]!, table[p + 3]!, fr) * (1 - fg) + mix(table[p + POINTS * 3]!, table[p + POINTS * 3 + 3]!, fr) * fg
      const q = p + POINTS * POINTS * 3
      const back = mix(table[q]!, table[q + 3]!, fr) * (1 - fg) + mix(table[q + POINTS * 3]!, table[q + POINTS * 3 + 3]!, fr) * fg
      data[at + k] = front * (1 - fb) + back * fb
    }
  }
}

const mix = (a: number, b: number, part: number) => a + (b - a) * part

/** By how much each colour of a coarse grid changes. */
function coarse(table: Uint8Array): Int16Array {
  const made = new Int16Array(STEPS ** 3 * 3)
  const row = new Uint8ClampedArray(STEPS * 4)
  const middle = (n: number) => n * 4 + 2
  for (let b = 0; b < STEPS; b++) {
    for (let g = 0; g < STEPS; g++) {
      for (let r = 0; r < STEPS; r++) row.set([middle(r), middle(g), middle(b), 255], r * 4)
      interpolate(row, table)
      for (let r = 0; r < STEPS; r++) {
        const o = ((b * STEPS + g) * STEPS + r) * 3
        made[o] = row[r * 4]! - middle(r)
        made[o + 1] = row[r * 4 + 1]! - middle(g)
        made[o + 2] = row[r * 4 + 2]! - middle(b)
      }
    }
  }
  return made
}

/** Colours by the changes of the nearest ones of a coarse grid. */
export function shift(data: Uint8ClampedArray, changes: Int16Array) {
  for (let at = 0; at < data.length; at += 4) {
    const r = data[at]!, g = data[at + 1]!, b = data[at + 2]!
    const o = (((b >> 2) * STEPS + (g >> 2)) * STEPS + (r >> 2)) * 3
    data[at] = r + changes[o]!
    data[at + 1] = g + changes[o + 1]!
    data[at + 2] = b + changes[o + 2]!
  }
}
