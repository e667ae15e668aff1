import { useEventListener, useIntervalFn } from '@vueuse/core'
import { getCurrentScope } from 'vue'

const SOON = 1500 // milliseconds between two looks while something is being made
const SETTLED = 15_000 // and otherwise

/** Look for what is newer when the page comes to the front, soon while it `waits` for something, and now and then while it is seen. */
export function useFreshness(look: () => Promise<unknown>, waits: () => boolean) {
  if (!getCurrentScope()) return
  let last = Date.now()
  const again = () => {
    last = Date.now()
    void look()
  }
  const seen = () => document.visibilityState === 'visible'
  useEventListener(document, 'visibilitychange', () => { if (seen()) again() })
  useEventListener(window, 'focus', again)
  useIntervalFn(() => { if (seen() && (waits() || Date.now() - last >= SETTLED)) again() }, SOON)
}
