import { describe, expect, it, vi } from 'vitest'
import type { Doc } from './useDocument'

vi.mock('@/api/client', () => ({ api: { POST: vi.fn(async () => ({ id: 'd' })) }, got: <T>(asked: Promise<T>) => asked }))
const { api } = await import('@/api/client')
const { dressIn, newerOf } = await import('./useHouse')
type House = import('./useHouse').House

const house = (key: string, version: number) => ({ key, version, name: key }) as House
const wearing = (key: string, version: number) => ({ sheet: { house: { key, version } } }) as unknown as Doc

describe('the house style that a clip wears', () => {
  it('is newer where it was kept again since', () => {
    const houses = [house('own-1', 3), house('own-2', 9)]
    expect(newerOf(wearing('own-1', 2), houses)).toBe(houses[0])
    expect(newerOf(wearing('own-1', 3), houses)).toBeUndefined()
    expect(newerOf(wearing('gone', 1), houses)).toBeUndefined()
    expect(newerOf({ sheet: {} } as Doc, houses)).toBeUndefined()
    expect(newerOf(null, houses)).toBeUndefined()
  })

  it('is laid on the version and the edition that the page shows', async () => {
    const made = vi.fn((make: (clip: string, version: number, edition: string) => Promise<unknown>) => make('d1', 4, 'e2'))
    await dressIn({ made } as never, house('own-1', 3))
    expect(api.POST).toHaveBeenCalledExactlyOnceWith('/api/house/{key}/clips', { params: { path: { key: 'own-1' } }, body: { clip: 'd1', version: 4, edition: 'e2' } })
  })
})
