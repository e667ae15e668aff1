import { beforeEach, describe, expect, it, vi } from 'vitest'

const told = vi.hoisted(() => ({ tellChange: vi.fn() }))
vi.mock('./tell', () => told)
vi.mock('@/api/client', () => ({
  ApiError: class extends Error {
    constructor(readonly status: number, message: string, readonly body: unknown) { super(message) }
  },
}))
const { ApiError } = await import('@/api/client')
const { onTop } = await import('./onTop')

const stale = () => new ApiError(409, 'stale', null)
beforeEach(() => void vi.clearAllMocks())

describe('changing what others may change too', () => {
  it('is made once where nobody did', async () => {
    const change = vi.fn(async (version: number) => `changed ${version}`)
    expect(await onTop({ version: 3 }, vi.fn(), change)).toBe('changed 3')
    expect(told.tellChange).not.toHaveBeenCalled()
  })

  it('is made once more on top of what is newer, and the person is told', async () => {
    const change = vi.fn(async (version: number) => { if (version === 3) throw stale(); return version })
    expect(await onTop({ version: 3 }, async () => ({ version: 5 }), change)).toBe(5)
    expect(told.tellChange).toHaveBeenCalledTimes(1)
  })

  it('fails where it is refused for anything else, or where it is gone', async () => {
    const refused = vi.fn(async () => { throw new ApiError(422, 'too long', null) })
    await expect(onTop({ version: 3 }, async () => ({ version: 5 }), refused)).rejects.toThrow('too long')
    const change = vi.fn(async () => { throw stale() })
    await expect(onTop({ version: 3 }, async () => undefined, change)).rejects.toThrow('stale')
    await expect(onTop({ version: 3 }, async () => ({ version: 3 }), change)).rejects.toThrow('stale')
    expect(change).toHaveBeenCalledTimes(2)
  })
})
