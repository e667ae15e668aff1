import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import type { Doc } from '@/document/useDocument'
import { tellError } from '@/shared/tell'

export type Fault = Schemas['FaultOut']
export type Fix = Schemas['Fix']

const SETTLED = 500 // ms after the last change: while somebody edits, one proof of many is enough

/** What is wrong with the edition that is shown; asked anew after every change. */
export function useProof(doc: Ref<Doc | null>) {
  const client = useQueryClient()
  const shown = computed(() => (doc.value ? { id: doc.value.id, edition: doc.value.edition, stamp: doc.value.stamp, version: doc.value.version } : null))
  const settled = refDebounced(shown, SETTLED)
  const query = useQuery({
    queryKey: ['proof', settled],
    queryFn: () => got(api.GET('/api/documents/{document_id}/proof', { params: { path: { document_id: settled.value!.id }, query: { edition: settled.value!.edition } } })),
    enabled: () => !!settled.value,
    placeholderData: (before) => before,
  })
  const faults = computed(() => query.data.value?.faults ?? [])

  async function act(work: Promise<unknown>) {
    await work.catch(tellError)
    await client.invalidateQueries({ queryKey: ['proof'] })
  }
  const path = () => ({ document_id: shown.value!.id })

  return {
    faults,
    open: computed(() => faults.value.filter((each) => !each.left)),
    left: computed(() => faults.value.filter((each) => each.left)),
    ofFile: computed(() => query.data.value?.of_file ?? false),
    /** Whether it is of the clip as it stands: not while that is being looked at anew. */
    current: computed(() => !!query.data.value && query.data.value.version === doc.value?.version && query.data.value.edition === doc.value?.edition),
    error: query.error,
    leave: (key: string, why: string) => act(got(api.POST('/api/documents/{document_id}/proof/left', { params: { path: path() }, body: { key, why } }))),
    lookAgain: (key: string) => act(got(api.DELETE('/api/documents/{document_id}/proof/left', { params: { path: path(), query: { key } } }))),
  }
}

export type Proof = ReturnType<typeof useProof>

/** Faults by how bad they are, then by the check that found them, in the order in which they came. */
export function grouped(faults: Fault[], gravities: Record<string, string>, checks: Record<string, string>) {
  return Object.entries(gravities).flatMap(([gravity, heading]) => {
    const own = faults.filter((each) => each.gravity === gravity)
    const found = [...new Set(own.map((each) => each.check))]
    return own.length ? [{ gravity, heading, checks: found.map((check) => ({ check, label: checks[check] ?? check, faults: own.filter((each) => each.check === check) })) }] : []
  })
}
