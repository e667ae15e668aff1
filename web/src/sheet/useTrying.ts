import { shallowRef, watch, type Ref } from 'vue'
import { api, got } from '@/api/client'
import type { Ask, Doc } from '@/document/useDocument'
import type { Plan } from '@/player/timeline'

/** What is being typed or dragged, on the stage before it is kept: the plan as it would be. The newest is asked for as soon as the one before is there. */
export function useTrying(doc: Ref<Doc | null>) {
  const plan = shallowRef<Plan | null>(null)
  let next: Ask | null = null
  let asking = false

  async function run() {
    if (asking) return
    asking = true
    while (next && doc.value) {
      const [ask, { id, edition }] = [next, doc.value]
      next = null
      // What is half typed may not be possible (a title without words): the stage stays as it was.
      const made = await got(api.POST('/api/documents/{document_id}/tries', { params: { path: { document_id: id } }, body: { ask, edition } })).catch(() => null)
      if (made && doc.value?.id === id && trying) plan.value = made
    }
    asking = false
  }

  let trying = false
  function show(ask: Ask) {
    next = ask
    trying = true
    void run()
  }

  /** Show what is kept. */
  function stop() {
    next = null
    trying = false
    plan.value = null
  }
  watch(doc, stop)

  return { plan, show, stop }
}
