import { beforeEach, describe, expect, it } from 'vitest'
import { useUnsent, type Unsent } from './useUnsent'

class FakeStore {
  all = new Map<string, string>()
  full = false
  get length() { return this.all.size }
  key(n: number) { return [...this.all.keys()][n] ?? null }
  getItem(key: string) { return this.all.get(key) ?? null }
  setItem(key: string, value: string) {
    if (this.full) throw new Error('QuotaExceededError')
    this.all.set(key, value)
  }
  removeItem(key: string) { this.all.delete(key) }
}
let store = new FakeStore()
const unsent = () => useUnsent(store as unknown as Storage)
const edit = (document: string, at: number): Unsent => ({ document, at, kind: 'edit', change: { type: 'remove_layer', layer: `l${at}` } })

beforeEach(() => void (store = new FakeStore()))

describe('changes on their way', () => {
  it('are kept until they are answered', () => {
    const { keep, saving } = unsent()
    const answered = keep(edit('d1', 1))
    expect([saving.value, store.length]).toEqual([true, 1])
    answered()
    expect([saving.value, store.length]).toEqual([false, 0])
  })

  it('that an earlier page left are taken out in the order they were made, those of other documents stay', () => {
    const { keep, takeLeft } = unsent()
    const all = [edit('d1', 5), edit('d2', 1), edit('d1', 3)].map(keep)
    expect(takeLeft('d1').map((each) => each.at)).toEqual([3, 5])
    expect(takeLeft('d1')).toEqual([])
    expect(takeLeft('d2').map((each) => each.at)).toEqual([1])
    all.forEach((answered) => answered())
  })

  it('warn even where the browser keeps nothing', () => {
    store.full = true
    const { keep, saving } = unsent()
    const answered = keep(edit('d1', 1))
    expect(saving.value).toBe(true)
    answered()
    expect(saving.value).toBe(false)
  })

  it('that cannot be made twice are only waited for', () => {
    const { sent, saving } = unsent()
    const answered = sent()
    expect([saving.value, store.length]).toEqual([true, 0])
    answered()
    expect(saving.value).toBe(false)
  })

  it('that are broken are thrown away, and what others keep there is left alone', () => {
    store.setItem('hovvet-unsent:x', '{broken')
    store.setItem('somebody-elses', '{also broken')
    expect(unsent().takeLeft('d1')).toEqual([])
    expect([...store.all.keys()]).toEqual(['somebody-elses'])
  })
})
