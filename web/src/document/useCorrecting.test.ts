import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'

const told = vi.hoisted(() => ({ tell: vi.fn(), tellError: vi.fn() }))
const server = vi.hoisted(() => ({ POST: vi.fn(), GET: vi.fn() }))
vi.mock('@/shared/tell', () => told)
vi.mock('@/api/client', () => ({ api: server, got: <T>(asked: Promise<T>) => asked }))
const { useCorrecting } = await import('./useCorrecting')
type Document = Parameters<typeof useCorrecting>[1]
type Word = import('./transcript').Word

const words = (...texts: string[]) => texts.map((text, n) => ({ id: n + 7, text })) as Word[]
const occurrence = (id: number) => ({ change: { words: [id], text: 'Quillhaven' } })

function correcting() {
  const correct = vi.fn(async () => {})
  return { correct, ...useCorrecting(ref('r1'), { correct } as unknown as Document) }
}

beforeEach(() => {
  vi.clearAllMocks()
  server.POST.mockResolvedValue([occurrence(40), occurrence(90)])
})

describe('correcting words', () => {
  it('offers to do the same where else they stand', async () => {
    const { correct, rewrite, last } = correcting()
    await rewrite(words('Quill', 'Haven,'), 'Quillhaven,')
    expect(correct).toHaveBeenCalledExactlyOnceWith({ type: 'rewrite', changes: [{ words: [7, 8], text: 'Quillhaven,' }], fresh: 0 })
    expect(server.POST.mock.calls[0]![1].body).toEqual({ find: 'Quill Haven', put: 'Quillhaven', parts: false })
    expect(last.value).toMatchObject({ from: 'Quill Haven', to: 'Quillhaven', more: [{}, {}] })
  })

  it('offers nothing where only the writing was changed, or words were taken out', async () => {
    const { rewrite, last } = correcting()
    await rewrite(words('mini'), 'Mini.')
    await rewrite(words('um'), '')
    expect(server.POST).not.toHaveBeenCalled()
    expect(last.value).toBeNull()
  })

  it('shows the places before it changes them, then changes those that were left', async () => {
    const { lookEverywhere, places, title, apply, correct } = correcting()
    await lookEverywhere(' Quill Haven ', 'Quillhaven')
    expect([places.value!.length, title.value]).toEqual([2, 'Replace “Quill Haven” with “Quillhaven”'])
    await apply([occurrence(40).change])
    expect(correct).toHaveBeenCalledExactlyOnceWith({ type: 'rewrite', changes: [occurrence(40).change], fresh: 0 })
    expect([places.value, told.tell.mock.lastCall]).toEqual([null, ['Changed 1 place. One undo brings all back.']])
  })

  it('adds what was corrected to names & terms, and is done where nothing is left to do', async () => {
    const { rewrite, addTerm, last } = correcting()
    server.POST.mockResolvedValueOnce([])
    await rewrite(words('Quill'), 'Quillhaven')
    await addTerm()
    expect(server.POST.mock.lastCall![1].body).toEqual({ text: 'Quillhaven', heard: 'Quill' })
    expect(last.value).toBeNull()
  })

  it('tells what went wrong, and keeps what was corrected', async () => {
    const { correct, rewrite, last, lookAtTerms, places } = correcting()
    const lost = new Error('The server cannot be reached.')
    server.POST.mockRejectedValueOnce(lost)
    await rewrite(words('Quill'), 'Quillhaven')
    expect(correct).toHaveBeenCalledTimes(1)
    expect([told.tellError.mock.lastCall, last.value]).toEqual([[lost], null])
    server.GET.mockRejectedValueOnce(lost)
    await lookAtTerms()
    expect([told.tellError.mock.calls.length, places.value]).toEqual([2, null])
  })
})
