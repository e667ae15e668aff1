import { describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import type { Token } from '@/document/tokens'
import type { Doc } from '@/document/useDocument'
import { useLooking } from './useLooking'

const word = (start: number, at: number | null) => ({ kind: 'word', start, end: start + 0.3, placed: { origin: 'q', at } }) as unknown as Token
const BARS = [
  { layer: 'sticker', whole: false, start: 4, end: 8, shown: 4.6 },
  { layer: 'logo', whole: true, start: 0, end: 20, shown: null },
  { layer: 'asleep', whole: false, start: null, end: null, shown: null },
]

function looking() {
  const player = { time: ref(0), playing: ref(false), show: vi.fn() }
  const chosen = ref<Token[]>([])
  return { player, chosen, ...useLooking(player, ref({ bars: BARS } as unknown as Doc), chosen) }
}

describe('where the stage looks', () => {
  it('goes to the first selected word that is heard, and stays while the selection grows or comes back', async () => {
    const { player, chosen } = looking()
    chosen.value = [word(1, null), word(2, 1.5), word(3, 2.5)]
    await nextTick()
    expect(player.show.mock.calls).toEqual([[1.5]])
    chosen.value = [word(1, null), word(2, 1.2)]
    await nextTick()
    chosen.value = []
    await nextTick()
    expect(player.show).toHaveBeenCalledTimes(1)
  })

  it('goes to what is laid once it has come, unless that is seen already', () => {
    const { player, lookAt } = looking()
    lookAt('sticker')
    for (const time of [4.6, 7.9]) {
      player.time.value = time
      lookAt('sticker')
    }
    expect(player.show.mock.calls).toEqual([[4.6]])
    for (const layer of ['logo', 'asleep', 'gone']) lookAt(layer)
    expect(player.show).toHaveBeenCalledTimes(1)
    player.time.value = 8
    lookAt('sticker')
    expect(player.show).toHaveBeenCalledTimes(2)
  })

  it('goes nowhere while it plays', async () => {
    const { player, chosen, lookAt } = looking()
    player.playing.value = true
    chosen.value = [word(2, 1.5)]
    await nextTick()
    lookAt('sticker')
    expect(player.show).not.toHaveBeenCalled()
  })

  it('has what is laid on the stage only at its moment', () => {
    const { player, isThere } = looking()
    expect(['sticker', 'logo', 'asleep', 'gone'].map(isThere)).toEqual([false, true, false, false])
    player.time.value = 4
    expect(isThere('sticker')).toBe(true)
    player.time.value = 8
    expect(isThere('sticker')).toBe(false)
  })
})
