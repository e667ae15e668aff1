import { describe, expect, it, vi } from 'vitest'
import { ref, type Ref } from 'vue'
import { deskCommands, find } from './commands'
import type { DeskPage } from './useDeskPage'

function page(more: Record<string, unknown> = {}) {
  const player = { playing: ref(false), speed: ref(1), source: ref(10), toggle: vi.fn(), pause: vi.fn(), seekSource: vi.fn() }
  return {
    doc: ref({}), player, selected: ref([]), houses: ref([{ key: 'own-1', name: 'Our look' }]), clips: { makeClip: vi.fn(), keepPart: vi.fn() }, history: ref(false), finding: ref(false),
    finder: ref({ focus: vi.fn() }), words: ref({ edit: vi.fn() }), doubt: vi.fn(), give: vi.fn(), ...more,
  } as unknown as DeskPage
}
const found = (of: DeskPage, id: string) => deskCommands(of).find((each) => each.id === id)!
const press = () => ({}) as KeyboardEvent

describe('what can be done on the page of a recording', () => {
  it('has a name and a key of its own each', () => {
    const all = deskCommands(page())
    expect(new Set(all.map((each) => each.id)).size).toBe(all.length)
    const keys = all.flatMap((each) => each.keys ?? [])
    expect(keys.filter((key, n) => keys.indexOf(key) !== n)).toEqual([])
  })

  it('makes a clip of what is selected, in a house style or in none', () => {
    expect(found(page(), 'make-clip').enabled!()).toBe(false)
    const own = page({ selected: ref([{ id: 1 }]) })
    expect(found(own, 'make-clip').enabled!()).toBe(true)
    found(own, 'make-clip').run(press())
    found(own, 'make-clip-own-1').run(press())
    expect((own.clips.makeClip as ReturnType<typeof vi.fn>).mock.calls).toEqual([[], ['own-1']])
    expect(found(own, 'make-clip-own-1').label).toBe('Make clip in the style “Our look”')
  })

  it('waits until all words are there', () => {
    const own = page({ doc: ref(null), selected: ref([{ id: 1 }]) })
    expect(['find', 'correct', 'make-clip', 'speaker-3'].map((id) => found(own, id).enabled!())).toEqual([false, false, false, false])
    expect(found(own, 'back').enabled).toBeUndefined()
  })

  it('plays faster with each press, at most twice as fast, and as filmed after a pause', () => {
    const own = page()
    found(own, 'faster').run(press())
    expect(own.player.toggle).toHaveBeenCalledTimes(1)
    own.player.playing.value = true
    const speeds = [1, 2, 3].map(() => { found(own, 'faster').run(press()); return own.player.speed.value })
    expect(speeds).toEqual([1.5, 2, 2])
    found(own, 'stop').run(press())
    expect([own.player.speed.value, (own.player.pause as ReturnType<typeof vi.fn>).mock.calls.length]).toEqual([1, 1])
    own.player.speed.value = 0.5
    found(own, 'faster').run(press())
    expect(own.player.speed.value).toBe(1)
  })

  it('goes back three seconds, and never before the beginning', () => {
    const own = page()
    const source = own.player.source as Ref<number>
    found(own, 'back').run(press())
    source.value = 1
    found(own, 'back').run(press())
    expect((own.player.seekSource as ReturnType<typeof vi.fn>).mock.calls).toEqual([[7], [0]])
  })

  it('gives words to the speaker of a digit, and walks what is to be checked', () => {
    const own = page()
    found(own, 'speaker-4').run(press())
    found(own, 'check-next').run(press())
    found(own, 'check-before').run(press())
    expect(own.give).toHaveBeenCalledExactlyOnceWith('S4')
    expect((own.doubt as ReturnType<typeof vi.fn>).mock.calls).toEqual([[1], [-1]])
  })

  it('looks for something, and goes to the field where it is looked for already', () => {
    const own = page()
    find(own)
    expect([own.finding.value, (own.finder.value!.focus as ReturnType<typeof vi.fn>).mock.calls.length]).toEqual([true, 0])
    find(own)
    expect(own.finder.value!.focus).toHaveBeenCalledTimes(1)
  })
})
