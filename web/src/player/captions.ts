import JASSUB from 'jassub'

/** A script in which nothing is written. */
export const NO_CAPTIONS = '[Script Info]\nScriptType: v4.00+\n\n[Events]\n'

/** Draws a plan's caption script over the picture, with the same renderer and fonts as the export. */
export class Captions {
  private readonly renderer: JASSUB
  private readonly ready: Promise<unknown>
  private script: string

  constructor(private readonly canvas: HTMLCanvasElement, script: string, fonts: string[]) {
    this.script = script
    this.renderer = new JASSUB({ canvas, subContent: script, fonts, queryFonts: false })
    this.ready = this.renderer.ready
  }

  /** Change the script; the next draw shows it. */
  async load(script: string) {
    if (script === this.script) return
    this.script = script
    await this.ready
    await this.renderer.renderer.setTrack(script)
  }

  /** Draw the captions for a time of the output, in seconds. */
  async draw(seconds: number) {
    await this.ready
    const box = this.canvas.getBoundingClientRect()
    await this.renderer.manualRender({
      mediaTime: seconds,
      width: Math.round(box.width * devicePixelRatio),
      height: Math.round(box.height * devicePixelRatio),
      expectedDisplayTime: performance.now(),
    })
  }

  destroy() {
    void this.renderer.destroy()
  }
}
