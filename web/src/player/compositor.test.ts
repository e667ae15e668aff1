import type { VideoSample } from 'mediabunny'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { Compositor } from './compositor'
import type { Grades } from './grades'
import type { Stills } from './stills'
import type { PictureLayer, Plan } from './timeline'

/** A canvas that only tells what was done to it. */
class FakeCanvas {
  width = 540
  height = 960
  readonly did: [string, ...unknown[]][] = []
  readonly context: Record<string, unknown>
  constructor(readonly name: string) {
    const state: Record<string, unknown> = { canvas: this, globalAlpha: 1, filter: 'none' }
    this.context = new Proxy(state, {
      get: (target, key: string) => {
        if (key in target) return target[key]
        if (key === 'createRadialGradient') return () => ({ addColorStop: (at: number, colour: string) => this.did.push(['stop', at, colour]) })
        if (key === 'getImageData') return (_: number, __: number, width: number, height: number) => ({ data: new Uint8ClampedArray(width * height * 4) })
        return (...of: unknown[]) => this.did.push([key, ...of.map((each) => (each instanceof FakeCanvas ? each.name : each)), ...(key === 'fillRect' || key === 'drawImage' ? [{ alpha: target.globalAlpha, fill: target.fillStyle }] : [])])
      },
      set: (target, key: string, value) => {
        target[key] = value
        if (key === 'filter' && value !== 'none') this.did.push(['filter', value])
        return true
      },
    })
  }
  getContext() { return this.context }
  of(what: string) { return this.did.filter(([name]) => name === what).map(([, ...of]) => of) }
}

class FakeBitmap { constructor(readonly width: number, readonly height: number) {} }
const canvases: FakeCanvas[] = []
vi.stubGlobal('document', { createElement: () => { const made = new FakeCanvas(`own ${canvases.length}`); canvases.push(made); return made } })
vi.stubGlobal('ImageBitmap', FakeBitmap)

const grades = { apply: vi.fn() }
const still = new FakeBitmap(400, 300)
const stills = { get: (media: string) => (media === 'still' ? still : undefined) }
const sample = { displayWidth: 960, displayHeight: 540, draw: vi.fn() } as unknown as VideoSample & { draw: ReturnType<typeof vi.fn> }

function drawn(picture: Partial<PictureLayer>[], frame = 0, quickly = false, coloured = true) {
  const canvas = new FakeCanvas('stage')
  const compositor = new Compositor(canvas as unknown as HTMLCanvasElement, () => ({ width: 1920, height: 1080 }), grades as unknown as Grades, stills as unknown as Stills)
  compositor.coloured = coloured
  const layers = picture.map((each) => ({ first: 0, last: 100, opacity: [], place: [], ...each }))
  const plan = { width: 1080, height: 1920, ground: '#20242B', picture: layers } as unknown as Plan
  compositor.draw(plan, frame, () => sample, quickly)
  return canvas
}

const fill = (colour: string, more: Partial<PictureLayer> = {}): Partial<PictureLayer> => ({ source: { type: 'fill', colour }, ...more })
const film = (more: Partial<PictureLayer> = {}): Partial<PictureLayer> => ({
  source: { type: 'video', media: 'r', knots: [] }, crop: { x: 200, y: 0, width: 600, height: 1080 }, place: [{ frame: 0, x: 540, y: 960, width: 1080, turn: 0 }], ...more,
})

beforeEach(() => {
  vi.clearAllMocks()
  canvases.length = 0
})

describe('a frame of a plan', () => {
  it('is the ground where nothing covers it, at half the size of the output', () => {
    const canvas = drawn([fill('#FF0000', { opacity: [{ at: 0, value: 0.25 }] })])
    expect(canvas.of('fillRect')).toEqual([[0, 0, 540, 960, { alpha: 1, fill: '#20242B' }], [0, 0, 540, 960, { alpha: 0.25, fill: '#FF0000' }]])
  })

  it('is not cleared under what covers all, and what is behind that is not drawn', () => {
    const canvas = drawn([fill('#00FF00'), fill('#FF0000')])
    expect(canvas.of('fillRect')).toEqual([[0, 0, 540, 960, { alpha: 1, fill: '#FF0000' }]])
  })

  it('shows of a working copy what the crop says of its source', () => {
    const canvas = drawn([film()])
    const [[, x, y, width, height, left, top, wide, high]] = canvas.of('drawImage') as [number[]]
    expect([x, y, width, height]).toEqual([100, 0, 300, 540])
    expect([left, top, wide, high]).toEqual([-270, -486, 540, 972])
    expect(canvas.of('translate')).toEqual([[270, 480]])
  })

  it('turns left and right, and turns by degrees', () => {
    const canvas = drawn([film({ mirrored: true, place: [{ frame: 0, x: 540, y: 960, width: 1080, turn: 90 }] })])
    expect(canvas.of('scale')).toEqual([[-1, 1]])
    expect(canvas.of('rotate')).toEqual([[Math.PI / 2]])
  })

  it('lets nothing of a layer out of its window', () => {
    const canvas = drawn([film({ window: { x: 100, y: 200, width: 400, height: 600, radius: 20 } })])
    expect(canvas.of('roundRect')).toEqual([[50, 100, 200, 300, 10]])
    expect(canvas.did.findIndex(([name]) => name === 'clip')).toBeLessThan(canvas.did.findIndex(([name]) => name === 'drawImage'))
  })

  it('has a blur of the same picture behind it, drawn small first', () => {
    const canvas = drawn([film({ backdrop: { type: 'blur', crop: { x: 400, y: 0, width: 600, height: 1080 }, width: 54, height: 96, sigma: 3 } })])
    const small = canvases.find((each) => each.width === 54)!
    expect((small.of('drawImage')[0] as unknown[]).slice(1, 9)).toEqual([200, 0, 300, 540, 0, 0, 54, 96])
    expect(canvases.flatMap((each) => each.of('filter'))).toEqual([['blur(3px)']])
    expect(canvas.of('drawImage')).toHaveLength(2)
  })

  it('stands over a picture at its strength, over a colour', () => {
    const backdrop = { type: 'picture', media: 'still', crop: { x: 0, y: 0, width: 400, height: 300 }, strength: 0.4, colour: '#123456' } as const
    const canvas = drawn([film({ backdrop })])
    expect(canvas.of('fillRect')).toEqual([[0, 0, 540, 960, { alpha: 1, fill: '#123456' }]])
    expect((canvas.of('drawImage')[0] as unknown[]).at(-1)).toMatchObject({ alpha: 0.4 })
  })

  it('mixes a layer with what is behind it as one where that fades in', () => {
    const canvas = drawn([fill('#00FF00'), film({ opacity: [{ at: 0, value: 0.5 }], backdrop: { type: 'plain', colour: '#000000' } })])
    const over = (canvas.of('drawImage').at(-1) as unknown[])
    expect(over.at(-1)).toMatchObject({ alpha: 0.5 })
    expect(over[0]).toMatch(/^own/)
    expect(canvas.of('fillRect')).toEqual([[0, 0, 540, 960, { alpha: 1, fill: '#00FF00' }]])
  })

  it('darkens its corners, has its colours and is sharper, unless colours are as they were filmed', () => {
    const look = { exposure: 0.5 } as NonNullable<PictureLayer['look']>
    const layer = film({ look, vignette: { begin: 0.45, dark: 0.3 }, sharpening: { amount: 0.6, sigma: 2 } })
    const canvas = drawn([layer])
    expect(canvas.of('stop')).toEqual([[0.45, 'rgb(0 0 0 / 0)'], [1, 'rgb(0 0 0 / 0.3)']])
    expect(grades.apply).toHaveBeenCalledExactlyOnceWith(expect.anything(), look, false)
    expect(canvases.flatMap((each) => each.of('filter'))).toEqual([['blur(1px)']]) // half of it: the copy is half as large
    grades.apply.mockClear()
    expect(drawn([layer], 0, false, false).of('stop')).toEqual([])
    expect(grades.apply).not.toHaveBeenCalled()
  })

  it('takes coarser colours and sharpens nothing while it passes by', () => {
    drawn([film({ look: { exposure: 0.5 } as NonNullable<PictureLayer['look']>, sharpening: { amount: 0.6, sigma: 2 } })], 0, true)
    expect(grades.apply).toHaveBeenCalledExactlyOnceWith(expect.anything(), { exposure: 0.5 }, true)
    expect(canvases.flatMap((each) => each.of('filter'))).toEqual([])
  })

  it('draws a still as it is, and nothing of one that has not come yet', () => {
    const of = (media: string) => film({ source: { type: 'still', media, clear: true }, crop: { x: 0, y: 0, width: 400, height: 300 } })
    expect((drawn([of('still')]).of('drawImage')[0] as unknown[]).slice(0, 5)).toEqual([still, 0, 0, 400, 300])
    expect(drawn([of('other')]).of('drawImage')).toEqual([])
  })
})
