import { describe, expect, it, vi } from 'vitest'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'

vi.mock('element-plus', () => ({ ElMessageBox: { prompt: vi.fn(), confirm: vi.fn() }, ElMessage: vi.fn() }))
const { addMenu, sheetCommands } = await import('./commands')
type SheetPage = import('./useSheetPage').SheetPage

const offer = (id: string, group: string, over: 'words' | 'clip', keys: string[] = []) => ({ id, kind: 'title', group, label: id, keys, over, here: false, sets: {}, text: '' }) as Schemas['OfferOut']
const OFFERS = [offer('title', 'screen', 'words', ['I']), offer('header', 'screen', 'clip'), offer('lay-speed-words', 'time', 'words', ['R'])]

function page(more: Record<string, unknown> = {}) {
  return {
    doc: ref({ title: 'A clip', plan: { frames: 30 }, beats: [], cameras: [], sources: [], sheet: { layers: [] }, bars: [] }), sheet: { sweep: vi.fn() }, choices: ref({ offers: OFFERS, sweep_kinds: ['filler'] }), player: { coloured: ref(true), time: ref(0), seek: vi.fn() },
    moving: { held: ref(null), moveTo: vi.fn(), put: vi.fn() }, laying: { lay: vi.fn(), openLayer: vi.fn() }, clip: {}, drawer: ref(null), dialog: ref(null), guarded: ref(false), large: ref(false), beats: ref(false), openDrawer: vi.fn(), ask: vi.fn(), edit: vi.fn(),
    refs: ref(null), hasWords: ref(false), chosen: ref([]), rows: ref({ edit: vi.fn() }), plan: computed(() => null), trimming: { trimmed: ref(''), heard: () => '' }, before: ref(null), ...more,
  } as unknown as SheetPage
}
const found = (of: SheetPage, id: string) => sheetCommands(of).find((each) => each.id === id)!
const press = () => ({}) as KeyboardEvent

describe('what can be done on the page of a clip', () => {
  it('has a name and a key of its own each', () => {
    const all = sheetCommands(page({ moving: { held: ref({}), moveTo: vi.fn(), put: vi.fn() } }))
    expect(new Set(all.map((each) => each.id)).size).toBe(all.length)
    const keys = all.filter((each) => each.id !== 'leave').flatMap((each) => each.keys ?? [])
    expect(keys.filter((key, n) => keys.indexOf(key) !== n)).toEqual([])
  })

  it('stands in a menu: on the selected words, on the whole clip, what changes its pace', () => {
    const [words, whole, pace] = addMenu(OFFERS).map((column) => column.ids)
    expect(words).toEqual(['broll', 'title'])
    expect(whole).toEqual(['header', 'opening-card', 'end-card', 'suggest'])
    expect(pace![0]).toBe('lay-speed-words')
  })

  it('is in one column of the menu each, and says what has to be done first', () => {
    const own = page()
    const ids = addMenu(OFFERS).flatMap((column) => column.ids)
    expect(new Set(ids).size).toBe(ids.length)
    for (const id of ids) {
      const command = sheetCommands(own).find((each) => each.id === id)
      if (command && !command.enabled!()) expect(command.why, id).toBeTruthy()
    }
  })

  it('makes sense over selected words only where it lies over them', () => {
    const own = page()
    expect(['title', 'header', 'to-front', 'keywords'].map((id) => found(own, id).enabled!())).toEqual([false, true, false, false])
    const words = page({ refs: ref([{ origin: 'p1', word: 1 }, { origin: 'p1', word: 2 }]), hasWords: ref(true) })
    expect(['title', 'to-front', 'keywords'].map((id) => found(words, id).enabled!())).toEqual([true, true, true])
    found(words, 'title').run(press())
    expect(words.laying.lay).toHaveBeenCalledExactlyOnceWith(OFFERS[0])
  })

  it('lays each camera by its digit, where there are some', () => {
    const words = { refs: ref([{ origin: 'p1', word: 1 }, { origin: 'p1', word: 2 }]) }
    expect(found(page(words), 'camera-2')).toBeUndefined()
    expect(found(page(words), 'who-talks').enabled!()).toBe(false)
    const side = { number: 2, name: 'Side', recording: 'talk', media: 'side', offset: 0, drift: 0, has_picture: true, has_sound: true }
    const own = page({ ...words, doc: ref({ title: 'A clip', plan: { frames: 30 }, beats: [], cameras: [side], sources: [{ id: 'talk', title: 'The talk' }] }) })
    const both = ['camera-1', 'camera-2'].map((id) => found(own, id))
    expect(both.map((each) => [each.label, each.keys])).toEqual([['Camera 1: The talk', ['1']], ['Camera 2: Side', ['2']]])
    both[1]!.run(press())
    expect(own.laying.lay).toHaveBeenCalledExactlyOnceWith({ kind: 'camera', over: 'words', sets: { camera: 2 } })
    expect(found(own, 'who-talks').enabled!()).toBe(true)
  })

  it('waits until the clip has been read', () => {
    const own = page({ doc: ref(null) })
    expect(['export', 'header', 'editions', 'suggest'].map((id) => found(own, id).enabled!())).toEqual([false, false, false, false])
  })

  it('opens what it says', () => {
    const own = page()
    for (const id of ['export', 'history', 'captions', 'suggest', 'cover-cuts', 'hooks', 'markers']) found(own, id).run(press())
    expect((own.openDrawer as ReturnType<typeof vi.fn>).mock.calls.flat()).toEqual(['export', 'history', 'captions', 'suggest', 'cuts', 'hooks', 'markers'])
    found(own, 'shapes').run(press())
    expect(own.dialog.value).toBe('shapes')
    found(own, 'safe-area').run(press())
    expect([own.guarded.value, found(own, 'safe-area').label]).toEqual([true, 'Hide the safe area'])
  })

  it('lets go of what is held while something is', () => {
    const held = ref<unknown>({ refs: [] })
    const own = page({ moving: { held, moveTo: vi.fn(), put: vi.fn() } })
    found(own, 'leave').run(press())
    expect(held.value).toBeNull()
    expect(found(own, 'leave')).toBeUndefined()
  })

  it('marks words, and takes the marks off where all of them have one', () => {
    const token = (n: number) => ({ kind: 'word', word: { id: n, text: 'clock' }, placed: { origin: 'p1' } })
    const own = page({ chosen: ref([token(1), token(2)]), hasWords: ref(true), doc: ref({ title: '', plan: { frames: 1 }, cameras: [], sources: [], sheet: { keywords: [{ origin: 'p1', word: 1 }] } }) })
    const words = [{ origin: 'p1', word: 1 }, { origin: 'p1', word: 2 }]
    found(own, 'keywords').run(press())
    expect(own.edit).toHaveBeenLastCalledWith([{ type: 'mark_keywords', words, marked: true }])
    own.doc.value!.sheet.keywords = words
    found(own, 'keywords').run(press())
    expect(own.edit).toHaveBeenLastCalledWith([{ type: 'mark_keywords', words, marked: false }])
  })
})
