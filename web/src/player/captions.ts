import JASSUB from 'jassub'

/** A script in which nothing is written. */
export const NO_CAPTIONS = '[Script Info]\nScriptType: v4.00+\n\n[Events]\n'

/** Draws a plan's caption script over the picture, with the same renderer and fonts as the export. */
export class Captions {
  private readonly renderer: JASSUB
  private readonly ready: Promise<unknown>
  private script: string
  private readonly fonts = new Set<string>() // besides those that ship

  constructor(private readonly canvas: HTMLCanvasElement, script: string, fonts: string[]) {
    this.script = script
    this.renderer = new JASSUB({ canvas, subContent: script, fonts, queryFonts: false })
    this.ready = this.renderer.ready
  }

  /** Change the script, written with these fonts besides; the next draw shows it. */
  async load(script: string, fonts: string[]) {
    const missing = fonts.filter((each) => !this.fonts.has(each))
    if (script === this.script && !missing.length) return
    this.script = script
    for (const each of missing) this.fonts.add(each)
    await this.ready
    if (missing.length) await this.renderer.renderer.addFonts(missing)
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
