import { shownBy, type PictureLayer } from './timeline'

/** The still pictures that a plan shows or stands over: fetched once, then drawn. */
export class Stills {
  private readonly asked = new Map<string, Promise<void>>()
  private readonly known = new Map<string, ImageBitmap>()

  constructor(private readonly addressOf: (media: string) => string) {}

  /** Resolves when the pictures of some layers are here; one that cannot be had is left out. */
  async ready(layers: readonly PictureLayer[]) {
    const wanted = layers.flatMap((layer) => [...(layer.backdrop?.type === 'picture' ? [layer.backdrop.media] : []), ...shownBy(layer).flatMap((each) => (each.type === 'still' ? [each.media] : []))])
    await Promise.all(wanted.map((media) => this.fetched(media)))
  }

  get(media: string): ImageBitmap | undefined {
    return this.known.get(media)
  }

  close() {
    for (const each of this.known.values()) each.close()
    this.known.clear()
    this.asked.clear()
  }

  private fetched(media: string): Promise<void> {
    const asked = this.asked.get(media)
    if (asked) return asked
    const asking = (async () => {
      const answer = await fetch(this.addressOf(media)).catch(() => null)
      const picture = answer?.ok ? await createImageBitmap(await answer.blob()) : null
      if (picture) this.known.set(media, picture)
      else this.asked.delete(media) // to be tried again
    })()
    this.asked.set(media, asking)
    return asking
  }
}
