import { computed, ref } from 'vue'
import type { Doc } from '@/document/useDocument'

const LEAST = 0.1 // seconds that are left of it, wherever it begins

/** Which part of a recording something shows or lets be heard: chosen by sliding where it begins, kept once that is let go. */
export function usePart(props: { content: { media?: string; start?: number }; doc: Doc; layer: string }, keep: (start: number) => void) {
  const moved = ref<number | null>(null)
  const source = computed(() => props.doc.sources.find((each) => each.id === props.content.media))
  const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
  return {
    source,
    needed: computed(() => (bar.value?.start != null && bar.value.end != null ? bar.value.end - bar.value.start : 0)),
    start: computed(() => moved.value ?? props.content.start ?? 0),
    share: (seconds: number) => `${Math.min(seconds / source.value!.duration, 1) * 100}%`,
    slid: (seconds: number) => void (moved.value = Math.round(Math.min(seconds, Math.max(source.value!.duration - LEAST, 0)) * 100) / 100),
    dropped() {
      if (moved.value !== null) keep(moved.value)
      moved.value = null
    },
  }
}
