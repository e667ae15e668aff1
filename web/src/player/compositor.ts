import type { VideoSample } from 'mediabunny'
import type { Grades } from './grades'
import { takeOut } from './keying'
import { sharpen } from './sharpening'
import type { Stills } from './stills'
import { placeAt, valueAt, type Film, type PictureLayer, type Plan } from './timeline'
import { boxOf, covers, visibleAt } from './visible'

/** The size of a source as its crops speak of it, in pixels. */
export type SizeOf = (media: string) => { width: number; height: number } | undefined

/** The frame of a film that is shown, where it has been decoded. */
export type SampleOf = (film: Film) => VideoSample | undefined

type Ground = NonNullable<NonNullable<PictureLayer['keyed']>['ground']>

/** What a layer shows, and how many of its pixels one of the source is. */
interface Picture { pixels: HTMLCanvasElement | ImageBitmap; shrunk: number }

const LARGEST_STILL = 1920 // pixels of its longer side: the stage is smaller

/** Draws the picture layers of a plan onto a canvas of any size of the same shape. */
export class Compositor {
  private readonly target: CanvasRenderingContext2D
  private readonly over = document.createElement('canvas')
  private readonly small = document.createElement('canvas')
  private readonly soft = document.createElement('canvas')
  private readonly whole = document.createElement('canvas')
  private quality: ImageSmoothingQuality = 'high'
  private readonly finishedStills = new WeakMap<ImageBitmap, { how: string; canvas: HTMLCanvasElement }>()
  coloured = true // false leaves colours as they were filmed

  constructor(private readonly canvas: HTMLCanvasElement, private readonly sizeOf: SizeOf, private readonly grades: Grades, private readonly stills: Stills) {
    this.target = canvas.getContext('2d', { willReadFrequently: true })!
  }

  clear(colour: string) {
    this.target.globalAlpha = 1
    this.target.fillStyle = colour
    this.target.fillRect(0, 0, this.canvas.width, this.canvas.height)
  }

  /** The whole picture of a recording, without a frame of its own: the canvas has its shape. */
  plain(sample: VideoSample) {
    this.target.imageSmoothingQuality = 'high'
    sample.draw(this.target, 0, 0, this.canvas.width, this.canvas.height)
  }

  /** One frame of a plan; `quickly` while it plays, when smooth edges cost more than they are seen. */
  draw(plan: Plan, frame: number, sampleOf: SampleOf, quickly = false) {
    this.quality = quickly ? 'low' : 'high'
    const shown = visibleAt(plan, frame)
    const bottom = shown[0]
    if (!bottom || !covers(plan, bottom, frame)) this.clear(plan.ground!)
    for (const layer of shown) {
      const opacity = valueAt(layer.opacity ?? [], frame)
      if (layer.source.type === 'fill') {
        this.target.globalAlpha = opacity
        this.target.fillStyle = layer.source.colour
        this.target.save()
        this.within(this.target, plan, layer.window)
        this.target.fillRect(0, 0, this.canvas.width, this.canvas.height)
        this.target.restore()
        this.target.globalAlpha = 1
        continue
      }
      const sample = this.sampleOf(layer.source, sampleOf)
      if (!sample) continue
      const picture = this.pictureOf(layer, sample, sampleOf)
      if (opacity >= 1 || !layer.backdrop) {
        this.target.globalAlpha = opacity
        this.lay(this.target, plan, layer, picture, frame)
        this.target.globalAlpha = 1
      } else {
        // The opacity covers what is behind the layer as well: both are drawn apart first.
        const over = this.contextOf(this.over, this.canvas.width, this.canvas.height)
        this.lay(over, plan, layer, picture, frame)
        this.target.globalAlpha = opacity
        this.target.drawImage(this.over, 0, 0)
        this.target.globalAlpha = 1
      }
    }
  }

  private sampleOf(source: PictureLayer['source'], sampleOf: SampleOf) {
    return source.type === 'still' ? this.stills.get(source.media) : source.type === 'video' ? sampleOf(source) : undefined
  }

  /** What a layer shows as it is seen, and how many of its pixels one of the source is. */
  private pictureOf(layer: PictureLayer, sample: VideoSample | ImageBitmap, sampleOf: SampleOf): Picture {
    if (sample instanceof ImageBitmap) {
      const pixels = this.finished(sample, layer, sampleOf)
      return { pixels, shrunk: pixels.width / sample.width }
    }
    // The working copy is smaller than the source that crops speak of.
    const size = layer.source.type === 'video' ? this.sizeOf(layer.source.media) : undefined
    const shrunk = size?.width ? sample.displayWidth / size.width : 1
    const context = this.contextOf(this.whole, sample.displayWidth, sample.displayHeight)
    sample.draw(context, 0, 0, sample.displayWidth, sample.displayHeight)
    this.finish(context, layer, shrunk, sampleOf)
    return { pixels: this.whole, shrunk }
  }

  private finish(context: CanvasRenderingContext2D, { keyed, look, sharpening }: PictureLayer, shrunk: number, sampleOf: SampleOf) {
    if (keyed) this.key(context, keyed, shrunk, sampleOf)
    if (!this.coloured) return
    if (look) this.grades.apply(context, look, this.quality === 'low')
    if (sharpening && this.quality === 'high') this.sharpen(context, sharpening.amount, sharpening.sigma * shrunk) // what passes by is not seen so sharp
  }

  /** Take a screen out, and draw what is in its place behind what is left. */
  private key(context: CanvasRenderingContext2D, { screen, ground }: NonNullable<PictureLayer['keyed']>, shrunk: number, sampleOf: SampleOf) {
    const { width, height } = context.canvas
    const image = context.getImageData(0, 0, width, height)
    takeOut(image, screen, this.quality === 'low')
    context.putImageData(image, 0, 0)
    if (!ground) return
    context.globalCompositeOperation = 'destination-over'
    this.ground(context, ground, shrunk, sampleOf)
    context.globalCompositeOperation = 'source-over'
  }

  private ground(context: CanvasRenderingContext2D, { source, crop, sigma }: Ground, shrunk: number, sampleOf: SampleOf) {
    const { width, height } = context.canvas
    context.fillStyle = source.type === 'fill' ? source.colour : '#000000'
    const sample = this.sampleOf(source, sampleOf)
    if (source.type !== 'fill' && sample && crop) {
      context.imageSmoothingQuality = this.quality
      const still = sample instanceof ImageBitmap
      const copied = still ? 1 : sample.displayWidth / (this.sizeOf(source.media)?.width || sample.displayWidth)
      const [x, y, wide, high] = [crop.x * copied, crop.y * copied, crop.width * copied, crop.height * copied]
      const draw = () => (still ? context.drawImage(sample, x, y, wide, high, 0, 0, width, height) : sample.draw(context, x, y, wide, high, 0, 0, width, height))
      if (sigma) {
        context.filter = `blur(${sigma * shrunk}px)`
        draw()
        context.filter = 'none' // and the sharp one behind it: a blur fades towards the edges
      }
      draw()
    }
    context.fillRect(0, 0, width, height)
  }

  /** A still as a layer has it, no larger than is seen; remembered while it is the same in every frame. */
  private finished(picture: ImageBitmap, layer: PictureLayer, sampleOf: SampleOf): HTMLCanvasElement | ImageBitmap {
    if (!layer.keyed && (!this.coloured || !(layer.look || layer.sharpening))) return picture
    const moves = layer.keyed?.ground?.source.type === 'video'
    const how = JSON.stringify([layer.keyed, layer.look, layer.sharpening, this.quality, this.coloured])
    const known = this.finishedStills.get(picture)
    if (!moves && known?.how === how) return known.canvas
    const shrunk = Math.min(LARGEST_STILL / Math.max(picture.width, picture.height), 1)
    const canvas = document.createElement('canvas')
    const context = this.contextOf(canvas, Math.round(picture.width * shrunk), Math.round(picture.height * shrunk))
    context.imageSmoothingQuality = 'high'
    context.drawImage(picture, 0, 0, canvas.width, canvas.height)
    this.finish(context, layer, shrunk, sampleOf)
    this.finishedStills.set(picture, { how, canvas })
    return canvas
  }

  private sharpen(context: CanvasRenderingContext2D, amount: number, sigma: number) {
    const { width, height } = context.canvas
    const soft = this.contextOf(this.soft, width, height)
    soft.filter = 'none'
    soft.drawImage(context.canvas, 0, 0)
    soft.filter = `blur(${sigma}px)`
    soft.drawImage(context.canvas, 0, 0)
    const image = context.getImageData(0, 0, width, height)
    sharpen(image.data, soft.getImageData(0, 0, width, height).data, amount)
    context.putImageData(image, 0, 0)
  }

  private contextOf(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D {
    if (canvas.width !== width || canvas.height !== height) {
      canvas.width = width
      canvas.height = height
    }
    return canvas.getContext('2d', { willReadFrequently: true })!
  }

  private lay(target: CanvasRenderingContext2D, plan: Plan, layer: PictureLayer, { pixels: picture, shrunk }: Picture, frame: number) {
    const { crop } = layer
    if (!crop) return
    const scale = this.canvas.width / plan.width
    if (layer.backdrop?.type === 'blur') {
      this.blur(target, layer.backdrop, picture, shrunk, !!layer.mirrored)
    } else if (layer.backdrop) {
      target.fillStyle = layer.backdrop.colour
      target.fillRect(0, 0, this.canvas.width, this.canvas.height)
      if (layer.backdrop.type === 'picture') this.still(target, layer.backdrop)
    }
    target.imageSmoothingEnabled = true
    target.imageSmoothingQuality = this.quality
    const place = placeAt(layer.place ?? [], frame)
    const box = boxOf(place, crop, (layer.place?.length ?? 0) > 1)
    target.save()
    this.within(target, plan, layer.window)
    target.translate(place.x * scale, place.y * scale)
    if (place.turn) target.rotate((place.turn * Math.PI) / 180)
    if (layer.mirrored) target.scale(-1, 1)
    const left = layer.mirrored ? place.x - box.x - box.width : box.x - place.x
    target.drawImage(
      picture, crop.x * shrunk, crop.y * shrunk, crop.width * shrunk, crop.height * shrunk,
      left * scale, (box.y - place.y) * scale, box.width * scale, box.height * scale,
    )
    target.restore()
    if (layer.vignette && this.coloured) this.darken(target, layer.vignette)
  }

  /** Let nothing be drawn outside a part of the output. */
  private within(target: CanvasRenderingContext2D, plan: Plan, window: PictureLayer['window']) {
    if (!window) return
    const scale = this.canvas.width / plan.width
    target.beginPath()
    target.roundRect(window.x * scale, window.y * scale, window.width * scale, window.height * scale, (window.radius ?? 0) * scale)
    target.clip()
  }

  /** Corners darker than the middle, in the shape of the picture. */
  private darken(target: CanvasRenderingContext2D, { begin, dark }: NonNullable<PictureLayer['vignette']>) {
    const { width, height } = this.canvas
    target.save()
    target.translate(width / 2, height / 2)
    target.scale(width, height)
    const shade = target.createRadialGradient(0, 0, 0, 0, 0, Math.SQRT1_2)
    shade.addColorStop(begin, 'rgb(0 0 0 / 0)')
    shade.addColorStop(1, `rgb(0 0 0 / ${dark})`)
    target.fillStyle = shade
    target.fillRect(-0.5, -0.5, 1, 1)
    target.restore()
  }

  private still(target: CanvasRenderingContext2D, { media, crop, strength }: Extract<PictureLayer['backdrop'], { type: 'picture' }>) {
    const picture = this.stills.get(media)
    if (!picture) return
    const before = target.globalAlpha
    target.globalAlpha = before * strength
    target.imageSmoothingEnabled = true
    target.imageSmoothingQuality = this.quality
    target.drawImage(picture, crop.x, crop.y, crop.width, crop.height, 0, 0, this.canvas.width, this.canvas.height)
    target.globalAlpha = before
  }

  private blur(target: CanvasRenderingContext2D, backdrop: Extract<PictureLayer['backdrop'], { type: 'blur' }>, picture: HTMLCanvasElement | ImageBitmap, shrunk: number, mirrored: boolean) {
    const a = this.contextOf(this.small, backdrop.width, backdrop.height)
    const b = this.contextOf(this.soft, backdrop.width, backdrop.height)
    const { crop } = backdrop
    a.imageSmoothingQuality = this.quality
    a.drawImage(picture, crop.x * shrunk, crop.y * shrunk, crop.width * shrunk, crop.height * shrunk, 0, 0, backdrop.width, backdrop.height)
    b.filter = 'none'
    b.drawImage(this.small, 0, 0)
    b.filter = `blur(${backdrop.sigma}px)`
    b.drawImage(this.small, 0, 0)
    target.imageSmoothingEnabled = true
    target.imageSmoothingQuality = 'low' // as the export enlarges it
    target.save()
    if (mirrored) {
      target.translate(this.canvas.width, 0)
      target.scale(-1, 1)
    }
    target.drawImage(this.soft, 0, 0, this.canvas.width, this.canvas.height)
    target.restore()
  }
}
