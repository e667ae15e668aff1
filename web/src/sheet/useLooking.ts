import { watch, type Ref } from 'vue'
import type { Token } from '@/document/tokens'
import type { Doc } from '@/document/useDocument'
import type { usePlayer } from '@/player/usePlayer'

type Looked = Pick<ReturnType<typeof usePlayer>, 'time' | 'playing' | 'show'>

/** The stage goes where the work is, unless it plays: to the first of the words that are selected, and to what is laid. */
export function useLooking(player: Looked, doc: Ref<Doc | null>, chosen: Ref<Token[]>) {
  const barOf = (layer: string) => doc.value?.bars.find((bar) => bar.layer === layer)

  function look(seconds: number | null | undefined) {
    if (seconds != null && !player.playing.value) player.show(seconds)
  }

  // Not when the same words come back from the server: the playhead may have been moved since.
  watch(() => (chosen.value[0] ? `${chosen.value[0].placed?.origin} ${chosen.value[0].start}` : ''), () => {
    look(chosen.value.find((token) => token.placed?.at != null)?.placed?.at)
  })

  /** Show what is laid, once it has come; nothing moves while it is seen. */
  function lookAt(layer: string) {
    const bar = barOf(layer)
    if (bar?.shown != null && bar.end !== null && (player.time.value < bar.shown || player.time.value >= bar.end)) look(bar.shown)
  }

  /** Whether what is laid is there at the moment that is shown. */
  function isThere(layer: string): boolean {
    const bar = barOf(layer)
    return !!bar && (bar.whole || (bar.start !== null && bar.end !== null && player.time.value >= bar.start && player.time.value < bar.end))
  }

  return { lookAt, isThere }
}
