import { computed, nextTick, ref, shallowRef, watch, type Ref } from 'vue'
import type { Plan } from './timeline'
import type { usePlayer } from './usePlayer'

const AROUND = 1.5 // seconds heard before and after a place

/**
 * Hearing a place of the recording as it is, or as it would be by another plan. The other plan
 * is played only until the place is over; then the page plays its own again.
 */
export function useHearing(own: Ref<Plan | null>) {
  const trial = shallowRef<Plan | null>(null)
  const until = ref<number | null>(null)
  const plan = computed(() => trial.value ?? own.value)

  function follow(player: ReturnType<typeof usePlayer>) {
    watch(player.source, (source) => {
      if (until.value !== null && source >= until.value) {
        player.pause()
        over()
      }
    })
    watch(player.playing, (playing) => {
      if (!playing) over()
    })

    function over() {
      until.value = null
      trial.value = null
    }

    return async (start: number, end: number, as: Plan | null = null) => {
      player.pause()
      trial.value = as
      await nextTick()
      await player.seekSource(Math.max(start - AROUND, 0))
      until.value = end + AROUND
      player.play()
    }
  }

  return { plan, follow }
}
