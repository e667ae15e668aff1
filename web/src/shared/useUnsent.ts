import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'

type Edit = Schemas['Change']['edit']
type Correction = Schemas['Correcting']['correction']

/** A change that the server has not answered yet. */
export type Unsent = { document: string; at: number } & ({ kind: 'edit'; change: Edit } | { kind: 'correction'; change: Correction; recording?: string })

/**
 * Changes on their way, kept in the browser until the server has answered: when the page is left before that, they
 * are made at the next opening. They name words and not places, so that making one twice changes nothing.
 */
const PREFIX = 'hovvet-unsent:'
const waiting = ref(0)

export function useUnsent(store: Storage = localStorage) {
  return {
    saving: computed(() => waiting.value > 0),

    /** A change is on its way that is not kept: made twice it would not be the same. Call what is returned when it is answered. */
    sent(): () => void {
      waiting.value++
      return () => waiting.value--
    },

    /** Keep a change until it is answered; call what is returned then. */
    keep(unsent: Unsent): () => void {
      const key = PREFIX + crypto.randomUUID()
      waiting.value++
      try {
        store.setItem(key, JSON.stringify(unsent))
      } catch {
        // The store is full or forbidden: leaving the page still warns.
      }
      return () => {
        waiting.value--
        store.removeItem(key)
      }
    },

    /** Take out what an earlier page left for a document, in the order it was made. */
    takeLeft(document: string): Unsent[] {
      const keys = Array.from({ length: store.length }, (_, n) => store.key(n)!).filter((key) => key.startsWith(PREFIX))
      const left = keys.flatMap((key) => {
        try {
          const unsent = JSON.parse(store.getItem(key) ?? '') as Unsent
          if (unsent.document !== document) return []
          store.removeItem(key)
          return [unsent]
        } catch {
          store.removeItem(key)
          return []
        }
      })
      return left.sort((a, b) => a.at - b.at)
    },
  }
}

/** Warn before the page is left while something is unsent. */
export function warnBeforeLeaving() {
  window.addEventListener('beforeunload', (event) => {
    if (waiting.value) event.preventDefault()
  })
}
