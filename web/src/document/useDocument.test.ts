import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

class FakeStore {
  private readonly all = new Map<string, string>()
  get length() { return this.all.size }
  key(n: number) { return [...this.all.keys()][n] ?? null }
  getItem(key: string) { return this.all.get(key) ?? null }
  setItem(key: string, value: string) { this.all.set(key, value) }
  removeItem(key: string) { this.all.delete(key) }
}
vi.stubGlobal('localStorage', new FakeStore())
vi.stubGlobal('sessionStorage', new FakeStore())

const told = vi.hoisted(() => ({ tell: vi.fn(), tellChange: vi.fn(), tellError: vi.fn() }))
const server = vi.hoisted(() => ({ POST: vi.fn(), PATCH: vi.fn() }))
vi.mock('@/shared/tell', () => told)
vi.mock('@/api/client', () => {
  class ApiError extends Error {
    constructor(readonly status: number, message: string, readonly body: unknown = null) { super(message) }
  }
  return { ApiError, api: server, got: <T>(asked: Promise<T>) => asked }
})

const { ApiError } = await import('@/api/client')
const { useDocument } = await import('./useDocument')
type Doc = import('./useDocument').Doc

const document = (version: number, more: Partial<Doc> = {}) => ({ id: 'd', version, newest: 10 + version, undoes: 10 + version, told: '', ...more }) as Doc
const cut = (word: number) => [{ type: 'cut_words' as const, piece: 'p1', words: [word], reason: 'hand' as const }]
const sent = () => server.POST.mock.calls.map(([path, { body }]) => [path.split('/').at(-1), body.version, body.edit?.words?.[0]])

beforeEach(() => {
  vi.clearAllMocks()
  sessionStorage.removeItem('hovvet-opened:d')
})

afterEach(() => void vi.useRealTimers())

describe('a document that several people change', () => {
  it('sends edits one after another, each on the version the one before led to', async () => {
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    const sheet = useDocument()
    sheet.opened(document(1))
    await Promise.all([sheet.edit(cut(4)), sheet.edit(cut(5)), sheet.edit(cut(6))])
    expect(sent()).toEqual([['edits', 1, 4], ['edits', 2, 5], ['edits', 3, 6]])
    expect(sheet.doc.value?.version).toBe(4)
  })

  it('makes an edit again on top of what somebody else did, and says so', async () => {
    server.POST.mockRejectedValueOnce(new ApiError(409, 'changed', { document: document(7) }))
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    const sheet = useDocument()
    sheet.opened(document(1))
    await sheet.edit(cut(4))
    expect(sent()).toEqual([['edits', 1, 4], ['edits', 7, 4]])
    expect(sheet.doc.value?.version).toBe(8)
    expect(told.tellChange).toHaveBeenCalledOnce()
  })

  it('makes it again as often as others were faster, and tells once that it was kept', async () => {
    vi.useFakeTimers()
    let theirs = 7
    for (let n = 0; n < 30; n++) server.POST.mockImplementationOnce(async () => { throw new ApiError(409, 'changed', { document: document(theirs++) }) })
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    const sheet = useDocument()
    sheet.opened(document(1))
    const done = sheet.edit(cut(4))
    await vi.advanceTimersByTimeAsync(30_000)
    expect([told.tellChange.mock.calls.map(([text]) => text.slice(0, 6)), sheet.saving.value, localStorage.length]).toEqual([['Others'], true, 1])
    await vi.advanceTimersByTimeAsync(200_000)
    await done
    expect(sent().at(-1)).toEqual(['edits', 36, 4])
    expect(sheet.doc.value?.version).toBe(37)
    expect(told.tellChange).toHaveBeenCalledTimes(2)
    expect(told.tellChange).toHaveBeenLastCalledWith(expect.stringContaining('Your change was made on top of it'))
    expect([localStorage.length, sheet.saving.value]).toEqual([0, false])
  })

  it('says of what is not kept that it was not done', async () => {
    vi.useFakeTimers()
    server.POST.mockImplementation(async (_path, { body }) => { throw new ApiError(409, 'changed', { document: document(body.version + 1) }) })
    const sheet = useDocument()
    sheet.opened(document(1))
    const done = sheet.ask({ ask: 'find_keywords' })
    await vi.advanceTimersByTimeAsync(60_000)
    await done
    expect(told.tellChange).not.toHaveBeenCalled()
    expect(told.tellError).toHaveBeenCalledExactlyOnceWith(expect.objectContaining({ message: expect.stringContaining('not done') }))
  })

  it('does not undo on top of what somebody else did', async () => {
    server.POST.mockRejectedValue(new ApiError(409, 'changed', { document: document(7) }))
    const sheet = useDocument()
    sheet.opened(document(1))
    await sheet.undo()
    expect(server.POST).toHaveBeenCalledOnce()
    expect(told.tellChange).toHaveBeenCalledExactlyOnceWith(expect.stringContaining('try once more'))
  })

  it('undoes no further than to where it was opened, also after a reload of the page', async () => {
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    useDocument().opened(document(1))
    const again = useDocument()
    again.opened(document(3))
    expect(again.canUndo.value).toBe(true)
    await again.undo()
    expect(server.POST.mock.calls[0]![1].body.since).toBe(11)
    const fresh = useDocument()
    sessionStorage.removeItem('hovvet-opened:d')
    fresh.opened(document(5))
    expect(fresh.canUndo.value).toBe(false)
  })

  it('sends in order what could not be sent, once the server can be reached again', async () => {
    vi.useFakeTimers()
    server.POST.mockRejectedValueOnce(new ApiError(0, 'The server cannot be reached.'))
    server.POST.mockRejectedValueOnce(new ApiError(0, 'The server cannot be reached.'))
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    const sheet = useDocument()
    sheet.opened(document(1))
    const both = Promise.all([sheet.edit(cut(4)), sheet.edit(cut(5))])
    await vi.advanceTimersByTimeAsync(10_000)
    await both
    expect(sent()).toEqual([['edits', 1, 4], ['edits', 1, 4], ['edits', 1, 4], ['edits', 2, 5]])
    expect(told.tellError).toHaveBeenCalledOnce()
  })

  it('keeps what was not sent when the page is left, and sends it at the next opening', async () => {
    vi.useFakeTimers()
    server.POST.mockRejectedValueOnce(new ApiError(0, 'The server cannot be reached.'))
    const before = useDocument()
    before.opened(document(1))
    const lost = before.edit(cut(4))
    await vi.advanceTimersByTimeAsync(0)
    expect([localStorage.length, before.saving.value]).toEqual([1, true])
    server.POST.mockImplementation(async (_path, { body }) => document(body.version + 1))
    const after = useDocument()
    after.opened(document(1))
    await vi.advanceTimersByTimeAsync(10)
    expect(after.doc.value?.version).toBe(2)
    expect(sent().at(-1)).toEqual(['edits', 1, 4])
    await vi.advanceTimersByTimeAsync(10_000)
    await lost
    expect([localStorage.length, after.saving.value]).toEqual([0, false])
  })

  it('does not ask again for what was refused', async () => {
    server.POST.mockRejectedValueOnce(new ApiError(422, 'That makes no sense.'))
    const sheet = useDocument()
    sheet.opened(document(1))
    await sheet.edit(cut(4))
    expect(localStorage.length).toBe(0)
    expect(sheet.saving.value).toBe(false)
  })

  it('says what had to be replaced to open it', () => {
    useDocument().opened(document(1, { told: 'The outlet “x” is not known here.' }))
    expect(told.tellChange).toHaveBeenCalledWith('The outlet “x” is not known here.')
  })
})
