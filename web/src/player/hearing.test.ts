import { describe, expect, it, vi } from 'vitest'
import { computed, effectScope, nextTick, ref, shallowRef } from 'vue'
import type { Plan } from './timeline'
import { useHearing } from './useHearing'
import type { usePlayer } from './usePlayer'
import { usePlayPart } from './usePlayPart'

function player() {
  const made = { time: ref(0), source: ref(0), playing: ref(false), seek: vi.fn(async (at: number) => void (made.time.value = at)), seekSource: vi.fn(async (at: number) => void (made.source.value = at)), play: vi.fn(() => void (made.playing.value = true)), pause: vi.fn(() => void (made.playing.value = false)) }
  return made as typeof made & ReturnType<typeof usePlayer>
}

describe('playing a part of a clip', () => {
  it('begins where that does and ends where it is over', async () => {
    const own = player()
    const part = effectScope().run(() => usePlayPart(own))!
    await part(2, 4)
    expect([own.seek.mock.lastCall, own.playing.value]).toEqual([[2], true])
    own.time.value = 3.9
    await nextTick()
    expect(own.playing.value).toBe(true)
    own.time.value = 4
    await nextTick()
    expect(own.playing.value).toBe(false)
  })

  it('stops no more once a person stopped it', async () => {
    const own = player()
    const part = effectScope().run(() => usePlayPart(own))!
    await part(2, 4)
    own.pause()
    await nextTick()
    own.play()
    own.time.value = 9
    await nextTick()
    expect(own.playing.value).toBe(true)
  })
})

describe('hearing a place of the recording', () => {
  it('begins before it, ends after it, by another plan for so long', async () => {
    const own = shallowRef({ name: 'own' } as unknown as Plan)
    const other = { name: 'other' } as unknown as Plan
    const it_ = player()
    const { plan, hear } = effectScope().run(() => {
      const { plan, follow } = useHearing(computed(() => own.value))
      return { plan, hear: follow(it_) }
    })!
    await hear(10, 12, other)
    expect([it_.seekSource.mock.lastCall, plan.value]).toEqual([[8.5], other])
    it_.source.value = 13
    await nextTick()
    expect(it_.playing.value).toBe(true)
    it_.source.value = 13.5
    await nextTick()
    expect([it_.playing.value, plan.value]).toEqual([false, own.value])
  })

  it('begins at the front where there is nothing before it, and plays its own plan again when it is stopped', async () => {
    const own = shallowRef({ name: 'own' } as unknown as Plan)
    const it_ = player()
    const { plan, hear } = effectScope().run(() => {
      const { plan, follow } = useHearing(computed(() => own.value))
      return { plan, hear: follow(it_) }
    })!
    await hear(0.5, 1, { name: 'other' } as unknown as Plan)
    expect(it_.seekSource.mock.lastCall).toEqual([0])
    it_.pause()
    await nextTick()
    expect(plan.value).toBe(own.value)
  })
})
