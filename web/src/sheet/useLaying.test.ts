import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, ref, shallowRef } from 'vue'
import type { WordRef } from '@/document/tokens'
import type { Content, Doc, useDocument } from '@/document/useDocument'
import type { Choices } from '@/shared/useChoices'
import { useLaying } from './useLaying'

type Layer = NonNullable<Doc['sheet']['layers']>[number]

const word = (n: number): WordRef => ({ origin: 'p1', word: n })
const title = { kind: 'title', text: 'Title', template: 'headline' } as unknown as Content
const layer = (id: string, content: Content, runs = 1) => ({ id, content, span: { runs: Array.from({ length: runs }, () => ({ origin: 'p1', start: 0, end: 1 })) } }) as unknown as Layer

const CHOICES = { contents: { title: { properties: { kind: { const: 'title' }, text: { default: 'Title' }, template: { default: 'headline' } } }, framing: { properties: { kind: { const: 'framing' }, mode: { default: 'fit' } } } } } as unknown as Choices

function laying(layers: Layer[] = [], selected: [WordRef, WordRef] | null = [word(2), word(5)]) {
  const doc = shallowRef({ title: 'Nobody throws away a clock', edition: 'e1', rows: [], bars: [], sheet: { layers, editions: [{ id: 'e1', hidden: [] as string[] }] } } as unknown as Doc)
  const put = (more: Layer) => (doc.value = { ...doc.value, sheet: { ...doc.value.sheet, layers: [...(doc.value.sheet.layers ?? []), more] } })
  const ask = vi.fn(async (asked: { ask: string; content?: Content; first?: WordRef | null; named?: string | null }) => {
    if (asked.ask === 'lay' && asked.content) put(layer(asked.named ?? `new-${doc.value.sheet.layers!.length}`, asked.content, asked.first ? 1 : 0))
  })
  const edit = vi.fn(async () => {})
  const open = vi.fn()
  const tries = { show: vi.fn(), stop: vi.fn() }
  const refs = ref(selected)
  const said = ref('they throw it away')
  const made = useLaying({ doc, ask, edit } as unknown as ReturnType<typeof useDocument>, ref(CHOICES) as never, { refs: computed(() => refs.value), said }, open, tries)
  return { made, doc, ask, edit, open, tries, refs, said, put }
}

beforeEach(() => void vi.clearAllMocks())

describe('laying what is offered', () => {
  it('lays it over the selected words, as the core would have it but for what the offer sets, and opens it', async () => {
    const { made, ask, open } = laying()
    await made.lay({ kind: 'framing', over: 'words', sets: { mode: 'speaker' } })
    expect(ask).toHaveBeenCalledExactlyOnceWith({ ask: 'lay', content: { kind: 'framing', mode: 'speaker' }, layer: null, named: made.layer.value, edition: 'e1', first: word(2), last: word(5) })
    expect(open.mock.calls).toEqual([[made.layer.value], [made.layer.value, true]])
  })

  it('lays it over the whole clip whatever is selected', async () => {
    const { made, ask } = laying()
    await made.lay({ kind: 'framing', over: 'clip', sets: {} })
    expect(ask.mock.calls[0]![0]).toMatchObject({ content: { mode: 'fit' }, first: null, last: null })
  })

  it('lets a title say what is said, or what the clip is called', async () => {
    const { made, ask, said } = laying()
    await made.lay({ kind: 'title', over: 'words', sets: {}, text: 'what is said' })
    await made.lay({ kind: 'title', over: 'clip', sets: { template: 'header' }, text: 'the title' })
    said.value = ''
    await made.lay({ kind: 'title', over: 'words', sets: {}, text: 'what is said' })
    expect(ask.mock.calls.map(([{ content }]) => content as unknown as { text: string; template: string }).map(({ text, template }) => [text, template])).toEqual([
      ['they throw it away', 'headline'], ['Nobody throws away a clock', 'header'], ['Nobody throws away a clock', 'headline'],
    ])
  })

  it('opens the one that was there where laying it again changed that', async () => {
    const { made, ask, doc } = laying([layer('l1', { kind: 'framing', mode: 'fill' } as unknown as Content)])
    ask.mockImplementation(async () => { doc.value = { ...doc.value } })
    await made.lay({ kind: 'framing', over: 'words', sets: {} })
    expect(made.layer.value).toBe('l1')
  })
})

describe('what could not be laid', () => {
  it('opens nothing that was there before', async () => {
    const { made, ask } = laying([layer('l1', title)])
    ask.mockImplementation(async () => {})
    await made.lay({ kind: 'title', over: 'words', sets: {} })
    expect([made.layer.value === 'l1', made.own.value]).toEqual([false, undefined])
  })
})

describe('what is on its way', () => {
  it('is open before the answer, is changed under its name, and is shown as it is typed', async () => {
    const { made, ask, open, tries } = laying()
    let answer = () => {}
    ask.mockImplementationOnce(() => new Promise<void>((done) => (answer = done)))
    const laid = made.lay({ kind: 'title', over: 'words', sets: {}, text: 'what is said' })
    const id = made.layer.value
    expect(open.mock.calls).toEqual([[id]])
    expect([made.own.value!.content, made.drawn.value]).toEqual([{ ...title, text: 'they throw it away' }, undefined])
    made.tryOut({ ...title, text: 'N' } as Content)
    expect(tries.show).toHaveBeenLastCalledWith({ ask: 'lay', content: { ...title, text: 'N' }, layer: null, named: id, edition: 'e1', first: word(2), last: word(5) })
    const changed = made.change({ ...title, text: 'New' } as Content)
    expect([ask.mock.calls.length, (made.own.value!.content as { text: string }).text]).toEqual([1, 'New'])
    answer()
    await laid
    await changed
    expect(ask).toHaveBeenLastCalledWith({ ask: 'lay', content: { ...title, text: 'New' }, layer: id, named: null, edition: null, first: null, last: null })
    expect(tries.stop).toHaveBeenCalledOnce()
  })

  it('leaves another one open that was opened meanwhile', async () => {
    const { made } = laying([layer('l1', title)])
    const laid = made.lay({ kind: 'title', over: 'words', sets: {} })
    made.openLayer('l1')
    await laid
    expect(made.layer.value).toBe('l1')
  })
})

describe('what is laid', () => {
  it('shows a change at once, and what came back after that', async () => {
    const { made, ask } = laying([layer('l1', title)])
    made.openLayer('l1')
    let answer = () => {}
    ask.mockImplementation(() => new Promise<void>((done) => (answer = done)))
    void made.change({ ...title, text: 'Otherwise' } as Content)
    expect((made.own.value!.content as { text: string }).text).toBe('Otherwise')
    expect((made.drawn.value!.content as { text: string }).text).toBe('Title')
    await vi.waitFor(() => expect(ask).toHaveBeenCalled())
    answer()
    await vi.waitFor(() => expect((made.own.value!.content as { text: string }).text).toBe('Title'))
  })

  it('keeps what was changed last while an earlier change comes back', async () => {
    const { made, ask } = laying([layer('l1', title)])
    made.openLayer('l1')
    const answers: (() => void)[] = []
    ask.mockImplementation(() => new Promise<void>((done) => void answers.push(done)))
    void made.change({ ...title, text: 'One' } as Content)
    void made.change({ ...title, text: 'Two' } as Content)
    await vi.waitFor(() => expect(answers).toHaveLength(2))
    answers[0]!()
    await Promise.resolve()
    expect((made.own.value!.content as { text: string }).text).toBe('Two')
  })

  it('moves its edges by frames, lies over other words, and is taken off', async () => {
    const { made, edit, ask } = laying([layer('l1', title)])
    made.openLayer('l1')
    made.nudge('out', -2)
    expect(edit).toHaveBeenLastCalledWith([{ type: 'put_layer', layer: expect.objectContaining({ span: expect.objectContaining({ nudge_out: -2 }) }) }])
    made.layOver()
    expect(ask).toHaveBeenLastCalledWith({ ask: 'lay', content: title, layer: 'l1', named: null, edition: null, first: word(2), last: word(5) })
    void made.remove()
    expect(edit).toHaveBeenLastCalledWith([{ type: 'remove_layer', layer: 'l1' }])
  })

  it('is had otherwise in one edition: the copy is opened', async () => {
    const { made, ask, put } = laying([layer('l1', title)])
    made.openLayer('l1')
    ask.mockImplementation(async () => void put(layer('l2', title)))
    await made.setApart()
    expect(ask).toHaveBeenLastCalledWith({ ask: 'set_apart', layer: 'l1', edition: 'e1' })
    expect(made.layer.value).toBe('l2')
  })

  it('has no bar beside the rows where it lies over all, or sleeps', () => {
    const { made, doc } = laying()
    doc.value = { ...doc.value, bars: [{ layer: 'a', whole: true, first: 0 }, { layer: 'b', whole: false, first: null }, { layer: 'c', whole: false, first: 3 }] as unknown as Doc['bars'] }
    expect(made.barless.value.map((bar) => bar.layer)).toEqual(['a', 'b'])
  })
})
