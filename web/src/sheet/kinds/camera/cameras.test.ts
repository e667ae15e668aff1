import { expect, it } from 'vitest'
import type { Doc } from '@/document/useDocument'
import { camerasOf, momentOf } from './cameras'

const camera = (number: number, recording: string, offset = 0, has_picture = true) =>
  ({ number, name: `Camera ${number}`, recording, media: `m${number}`, offset, drift: 0, has_picture, has_sound: true })
const doc = (cameras: unknown[]) => ({
  cameras, sources: [{ id: 'talk', title: 'The talk' }],
  plan: { words: [{ id: 1, origin: 'p1', start: 0 }, { id: 2, origin: 'p1', start: 3 }] },
  rows: [{ tokens: [{ origin: 'p1', word: { id: 1, start: 20 } }, { origin: 'p1', word: { id: 2, start: 50 } }] }],
}) as unknown as Doc

it('counts the recording as the first, and takes the cameras of one talk', () => {
  expect(camerasOf(doc([]))).toEqual([])
  const found = camerasOf(doc([camera(3, 'talk'), camera(2, 'talk'), camera(2, 'other'), camera(4, 'talk', 0, false)]))
  expect(found.map((each) => [each.number, each.media])).toEqual([[1, 'talk'], [2, 'm2'], [3, 'm3']])
  expect(camerasOf(doc([camera(4, 'talk', 0, false)]), 'has_sound').map((each) => each.number)).toEqual([1, 4])
})

it('shows each as it is when the word at the playhead is said', () => {
  const [first, second] = camerasOf(doc([camera(2, 'talk', 12)]))
  expect(momentOf(doc([]), first!, 1)).toBe(21)
  expect(momentOf(doc([]), first!, 3.5)).toBe(50.5)
  expect(momentOf(doc([]), second!, 3.5)).toBe(38.5)
  expect(momentOf(doc([]), { ...second!, offset: 90 }, 0)).toBe(0)
})
