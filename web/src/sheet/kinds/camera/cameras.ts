import { secondOf } from '@/document/cameras'
import type { Doc } from '@/document/useDocument'

/** A camera of a clip: the recording itself is the first. */
export interface CameraOf { number: number; name: string; recording: string; media: string; offset: number; drift: number; has_sound: boolean }

/** The cameras to choose from in a clip, by number; of several talks those of the first that has more than one. */
export function camerasOf(doc: Doc, has: 'has_picture' | 'has_sound' = 'has_picture'): CameraOf[] {
  const own = doc.cameras.filter((each) => each[has])
  const talk = own[0]?.recording
  const first = doc.sources.find((each) => each.id === talk)
  if (!talk || !first) return []
  const itself = { number: 1, name: first.title, recording: talk, media: talk, offset: 0, drift: 0, has_sound: true }
  return [itself, ...own.filter((each) => each.recording === talk).sort((a, b) => a.number - b.number)]
}

/** The second of a camera at a second of the clip: by the word that is said then. */
export function momentOf(doc: Doc, camera: CameraOf, time: number): number {
  const word = doc.plan.words.findLast((each) => each.start <= time) ?? doc.plan.words[0]
  const spot = doc.rows.flatMap((row) => row.tokens).find((each) => each.word && word && each.origin === word.origin && each.word.id === word.id)
  const seconds = spot?.word ? spot.word.start + Math.max(time - (word?.start ?? 0), 0) : 0
  return secondOf(camera, seconds)
}
