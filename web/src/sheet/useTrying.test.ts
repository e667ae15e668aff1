import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, shallowRef } from 'vue'
import type { Ask, Doc } from '@/document/useDocument'
import { useTrying } from './useTrying'

const { post } = vi.hoisted(() => ({ post: vi.fn() }))
vi.mock('@/api/client', () => ({ api: { POST: post }, got: (work: Promise<unknown>) => work }))

const ask = (text: string) => ({ ask: 'lay', content: { kind: 'title', text } }) as unknown as Ask
const said = (n: number) => (post.mock.calls[n]![1] as { body: { ask: { content: { text: string } } } }).body.ask.content.text

function trying() {
  const doc = shallowRef({ id: 'd1', edition: 'e1' } as Doc | null)
  const answers: ((plan: object) => void)[] = []
  post.mockImplementation(() => new Promise((done) => void answers.push(done)))
  return { doc, answers, ...useTrying(doc) }
}

beforeEach(() => void vi.clearAllMocks())

describe('what is typed', () => {
  it('is asked for one at a time, and of what waits only the newest', async () => {
    const { answers, plan, show } = trying()
    for (const text of ['a', 'ab', 'abc']) show(ask(text))
    expect(post).toHaveBeenCalledOnce()
    answers[0]!({ frames: 1 })
    await vi.waitFor(() => expect(post).toHaveBeenCalledTimes(2))
    expect([said(0), said(1), plan.value]).toEqual(['a', 'abc', { frames: 1 }])
  })

  it('is not shown any more once it is kept, however late it comes', async () => {
    const { doc, answers, plan, show } = trying()
    show(ask('a'))
    doc.value = { id: 'd1', edition: 'e1' } as Doc
    await nextTick()
    answers[0]!({ frames: 1 })
    await new Promise((done) => setTimeout(done))
    expect(plan.value).toBeNull()
  })

  it('stays as it was where it is not possible', async () => {
    const { answers, plan, show } = trying()
    show(ask('a'))
    answers[0]!({ frames: 1 })
    await vi.waitFor(() => expect(plan.value).not.toBeNull())
    post.mockRejectedValueOnce(new Error('A title needs words.'))
    show(ask(''))
    await new Promise((done) => setTimeout(done))
    expect(plan.value).toEqual({ frames: 1 })
  })
})
