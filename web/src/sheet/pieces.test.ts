import { beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'

const box = vi.hoisted(() => ({ prompt: vi.fn() }))
const told = vi.hoisted(() => ({ tell: vi.fn() }))
vi.mock('element-plus', () => ({ ElMessageBox: box }))
vi.mock('@/shared/tell', () => told)
const { addGap, addWords, split, trim } = await import('./pieces')
const { toMarker } = await import('./kinds/marker/markers')
type SheetPage = import('./useSheetPage').SheetPage

const word = (id: number, at: number | null) => ({ origin: 'p1', word: { id }, at })
function page(more: Record<string, unknown> = {}) {
  return {
    doc: ref({ rows: [{ tokens: [word(1, 0), word(2, 1), word(3, null)] }, { tokens: [word(4, 2)] }] }), refs: ref(null), player: { time: ref(0), show: vi.fn() }, ask: vi.fn(), choices: ref({ usual_gap: 1.5 }),
    chosen: ref([]), trimming: { trimmed: ref(''), heard: () => 'p9' }, openDrawer: vi.fn(), before: ref(null), laying: { openLayer: vi.fn() }, plan: ref(null), ...more,
  } as unknown as SheetPage
}
beforeEach(() => void vi.clearAllMocks())

describe('the pieces of a clip', () => {
  it('are split before the selected word, or else before the one at the playhead that is heard', () => {
    const own = page()
    own.player.time.value = 1.5
    split(own)
    expect(own.ask).toHaveBeenLastCalledWith({ ask: 'split', word: { origin: 'p1', word: 4 } })
    split(page({ ask: own.ask, refs: ref([{ origin: 'p2', word: 9 }, { origin: 'p2', word: 11 }]) }))
    expect(own.ask).toHaveBeenLastCalledWith({ ask: 'split', word: { origin: 'p2', word: 9 } })
    const after = page()
    after.player.time.value = 50
    split(after)
    expect(after.ask).not.toHaveBeenCalled()
  })

  it('are parted by a gap of as many seconds as are given, with a comma too, and by none where none are', async () => {
    const own = page()
    box.prompt.mockResolvedValueOnce({ value: '2,5' })
    await addGap(own)
    expect(own.ask).toHaveBeenCalledExactlyOnceWith({ ask: 'add_gap', seconds: 2.5, before: null })
    box.prompt.mockRejectedValueOnce('cancel')
    await addGap(own)
    expect(own.ask).toHaveBeenCalledTimes(1)
    const { inputPattern } = box.prompt.mock.calls[0]![2] as { inputPattern: RegExp }
    expect(['2', '1.5', '1,5', 'two', '-1', ''].map((text) => inputPattern.test(text))).toEqual([true, true, true, false, false, false])
  })

  it('are trimmed: the one that is selected, or else the one that is heard', () => {
    const own = page()
    trim(own)
    expect([own.trimming.trimmed.value, (own.openDrawer as ReturnType<typeof vi.fn>).mock.lastCall]).toEqual(['p9', ['trim']])
    const chosen = page({ chosen: ref([{ placed: { piece: 'p3' } }]) })
    trim(chosen)
    expect(chosen.trimming.trimmed.value).toBe('p3')
    const nothing = page({ trimming: { trimmed: ref(''), heard: () => undefined } })
    trim(nothing)
    expect(nothing.openDrawer).not.toHaveBeenCalled()
  })

  it('come before the words that were selected when they were asked for', () => {
    const refs = ref<unknown>([{ origin: 'p1', word: 2 }, { origin: 'p1', word: 4 }])
    const own = page({ refs })
    addWords(own)
    refs.value = null
    expect(own.before.value).toEqual({ origin: 'p1', word: 2 })
  })
})

describe('markers', () => {
  const plan = { rate: { num: 30, den: 1 }, markers: [{ layer: 'b', first: 90 }, { layer: 'a', first: 30 }, { layer: 'c', first: 150 }] }
  const at = (seconds: number) => {
    const own = page({ plan: ref(plan) })
    own.player.time.value = seconds
    return own
  }

  it('are walked in the order they are heard, round and round', () => {
    const gone = ([[0, 1], [1, 1], [2, 1], [5, 1], [2, -1], [0.5, -1]] as const).map(([seconds, step]) => {
      const own = at(seconds)
      toMarker(own, step)
      return (own.laying.openLayer as ReturnType<typeof vi.fn>).mock.lastCall![0]
    })
    expect(gone).toEqual(['a', 'b', 'b', 'a', 'a', 'c'])
  })

  it('are told of where there are none', () => {
    const own = page({ plan: ref({ ...plan, markers: [] }) })
    toMarker(own, 1)
    expect(told.tell).toHaveBeenCalledTimes(1)
    expect(own.player.show).not.toHaveBeenCalled()
  })
})
