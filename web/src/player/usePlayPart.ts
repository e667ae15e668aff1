import { ref, watch } from 'vue'
import type { usePlayer } from './usePlayer'

/** Playing a part of a clip, in seconds of it; it stops at the end of that, unless the person stops it before. */
export function usePlayPart(player: ReturnType<typeof usePlayer>) {
  const until = ref<number | null>(null)
  watch(player.time, (time) => { if (until.value !== null && time >= until.value) player.pause() })
  watch(player.playing, (playing) => { if (!playing) until.value = null })
  return async (start: number, end: number) => {
    player.pause()
    await player.seek(start)
    until.value = end
    player.play()
  }
}
