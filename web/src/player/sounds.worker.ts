import type { SoundAnswer, SoundRequest } from './sounds'
import { Soundtrack } from './soundtrack'

/** Decodes sound apart from the page: there each of its many small steps would wait for a frame to be drawn. */
const tracks = new Map<string, Promise<Soundtrack>>()

function opened(url: string): Promise<Soundtrack> {
  const known = tracks.get(url)
  if (known) return known
  const opening = Soundtrack.open(url)
  tracks.set(url, opening)
  opening.catch(() => tracks.delete(url))
  return opening
}

const answer = (message: SoundAnswer, given: Transferable[] = []) => postMessage(message, { transfer: given })

addEventListener('message', ({ data }: MessageEvent<SoundRequest>) => {
  opened(data.url)
    .then((track) => track.read(data.first, data.count, data.rate))
    .then((sides) => answer({ id: data.id, sides }, sides.map((side) => side.buffer)))
    .catch((error: unknown) => answer({ id: data.id, error: String(error) }))
})
