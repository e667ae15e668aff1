import { computed, ref, watch, type Ref } from 'vue'
import { fps, type Plan } from '@/player/timeline'
import type { usePlayer } from '@/player/usePlayer'

const AROUND = 1.2 // seconds heard on both sides of an edge

/** The piece that is being trimmed, and one of its edges, heard again and again while it is moved. */
export function useTrimming(plan: Ref<Plan | null>, player: ReturnType<typeof usePlayer>) {
  const trimmed = ref('')
  const looping = ref<'start' | 'end' | null>(null)

  /** The piece that is heard now. */
  const heard = () => plan.value?.stretches?.findLast((each) => each.frame <= player.time.value * fps(plan.value!) + 1e-6)?.piece

  const edgeAt = computed(() => {
    const own = plan.value?.stretches?.filter((each) => each.piece === trimmed.value) ?? []
    const at = looping.value === 'start' ? own[0] : own.at(-1)
    return at && plan.value ? (looping.value === 'start' ? at.frame : at.frame + at.frames) / fps(plan.value) : null
  })

  function play() {
    if (edgeAt.value === null) return
    player.pause()
    player.seek(Math.max(edgeAt.value - AROUND, 0))
    player.play()
  }

  /** Begin to hear an edge in a loop; null ends it. */
  function hearEdge(edge: 'start' | 'end' | null) {
    looping.value = edge
    if (edge) play()
    else player.pause()
  }

  watch(edgeAt, () => { if (looping.value) play() })
  watch([player.time, player.playing], ([time, playing]) => {
    if (!looping.value || edgeAt.value === null) return
    if (time > edgeAt.value + AROUND || (!playing && time >= player.length.value - 0.05)) play()
  })

  return { trimmed, heard, hearEdge }
}
