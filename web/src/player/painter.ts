import type { VideoSample } from 'mediabunny'
import type { Schemas } from '@/api/client'

const STAGE = '#20242b'

/** Paints source frames as a plan frames them, onto a canvas of any size of the same shape. */
export class Painter {
  private readonly target: CanvasRenderingContext2D
  private readonly small = document.createElement('canvas')
  private readonly soft = document.createElement('canvas')

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.target = canvas.getContext('2d')!
  }

  clear() {
    this.target.fillStyle = STAGE
    this.target.fillRect(0, 0, this.canvas.width, this.canvas.height)
  }

  /** Whole picture, without a frame of its own: the canvas has its shape. */
  paintPlain(sample: VideoSample) {
    this.target.imageSmoothingQuality = 'high'
    sample.draw(this.target, 0, 0, this.canvas.width, this.canvas.height)
  }

  /** The picture fitted over its own blurred enlargement; `framing` is in pixels of an output of `width`. */
  paint(sample: VideoSample, framing: Schemas['Framing'], width: number) {
    const { target, canvas } = this
    const scale = canvas.width / width
    // The working copy is smaller than the source the framing speaks of.
    const shrunk = sample.displayWidth / (framing.crop_x * 2 + framing.crop_width)
    this.fill(sample, framing, shrunk)
    target.imageSmoothingEnabled = true
    target.imageSmoothingQuality = 'high'
    target.drawImage(this.soft, 0, 0, canvas.width, canvas.height)
    sample.draw(target, framing.fit_x * scale, framing.fit_y * scale, framing.fit_width * scale, framing.fit_height * scale)
  }

  private fill(sample: VideoSample, framing: Schemas['Framing'], shrunk: number) {
    const { small, soft } = this
    for (const each of [small, soft]) {
      if (each.width !== framing.fill_width || each.height !== framing.fill_height) {
        each.width = framing.fill_width
        each.height = framing.fill_height
      }
    }
    const a = small.getContext('2d')!
    a.imageSmoothingQuality = 'high'
    sample.draw(
      a,
      framing.crop_x * shrunk,
      framing.crop_y * shrunk,
      framing.crop_width * shrunk,
      framing.crop_height * shrunk,
      0,
      0,
      small.width,
      small.height,
    )
    const b = soft.getContext('2d')!
    b.filter = 'none'
    b.drawImage(small, 0, 0)
    b.filter = `blur(${framing.fill_sigma ?? 3}px)`
    b.drawImage(small, 0, 0)
  }
}
