import { describe, expect, it, vi } from 'vitest'
import { computed, effectScope, nextTick, ref, shallowRef } from 'vue'
import type { Plan } from '@/player/timeline'
import type { usePlayer } from '@/player/usePlayer'
import { useTrimming } from './useTrimming'

const plan = (first = 90) => ({ rate: { num: 30, den: 1 }, stretches: [{ piece: 'p1', frame: 0, frames: first }, { piece: 'p2', frame: first, frames: 60 }, { piece: 'p2', frame: first + 60, frames: 30 }] }) as unknown as Plan

function trimming() {
  const player = { time: ref(0), playing: ref(false), length: ref(10), seek: vi.fn((at: number) => void (player.time.value = at)), play: vi.fn(() => void (player.playing.value = true)), pause: vi.fn(() => void (player.playing.value = false)) }
  const own = shallowRef(plan())
  const made = effectScope().run(() => useTrimming(computed(() => own.value), player as unknown as ReturnType<typeof usePlayer>))!
  return { made, player, own }
}

describe('the piece that is trimmed', () => {
  it('is the one that is heard', () => {
    const { made, player } = trimming()
    expect(made.heard()).toBe('p1')
    player.time.value = 3
    expect(made.heard()).toBe('p2')
  })

  it('lets its edge be heard again and again', async () => {
    const { made, player } = trimming()
    made.trimmed.value = 'p2'
    made.hearEdge('start')
    expect(player.seek).toHaveBeenLastCalledWith(expect.closeTo(1.8))
    player.time.value = 4.3
    await nextTick()
    expect(player.seek).toHaveBeenCalledTimes(2)
    made.hearEdge('end')
    await nextTick()
    expect(player.seek).toHaveBeenLastCalledWith(expect.closeTo(4.8))
    made.hearEdge(null)
    player.time.value = 9
    await nextTick()
    expect(player.playing.value).toBe(false)
  })

  it('is heard where its edge has gone', async () => {
    const { made, player, own } = trimming()
    made.trimmed.value = 'p2'
    made.hearEdge('start')
    own.value = plan(60)
    await nextTick()
    expect(player.seek).toHaveBeenLastCalledWith(expect.closeTo(0.8))
  })

  it('begins at the front of the clip where its edge is near to it', () => {
    const { made, player } = trimming()
    made.trimmed.value = 'p1'
    made.hearEdge('start')
    expect(player.seek).toHaveBeenLastCalledWith(0)
  })
})
