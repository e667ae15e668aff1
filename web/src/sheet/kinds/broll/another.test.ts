import { describe, expect, it } from 'vitest'
import type { Doc } from '@/document/useDocument'
import { shownAt } from './another'

const doc = {
  sheet: { layers: [{ id: 'l1', content: { kind: 'broll' } }, { id: 'l2', content: { kind: 'title' } }, { id: 'l3', content: { kind: 'slide' } }] },
  bars: [{ layer: 'l1', start: 0, end: 2 }, { layer: 'l2', start: 0, end: 9 }, { layer: 'l3', start: 2, end: 4 }, { layer: 'l4', start: null, end: null }],
} as unknown as Doc

describe('the picture that another one takes the place of', () => {
  it('is the one that is seen, and no title over it', () => {
    expect(shownAt(doc, 1, null)).toBe('l1')
    expect(shownAt(doc, 2, null)).toBe('l3')
    expect(shownAt(doc, 5, null)).toBeNull()
  })
  it('is the one whose settings are open, wherever the playhead is', () => {
    expect(shownAt(doc, 1, 'l3')).toBe('l3')
    expect(shownAt(doc, 1, 'l2')).toBe('l1')
  })
})
