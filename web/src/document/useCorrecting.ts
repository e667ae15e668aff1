import { ref, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tell, tellError } from '@/shared/tell'
import type { Word } from './transcript'
import type { useDocument } from './useDocument'

type Occurrence = Schemas['Occurrence']

const bare = (text: string) => text.toLowerCase().replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '')
const trimmed = (text: string) => text.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, '')

/** Correcting words: one place, everywhere, and from names & terms. */
export function useCorrecting(recordingId: Ref<string>, document: ReturnType<typeof useDocument>) {
  const places = ref<Occurrence[] | null>(null) // to look through before they are changed
  const title = ref('')
  const last = ref<{ from: string; to: string; more: Occurrence[] } | null>(null) // the correction just made, to do more with
  const path = () => ({ params: { path: { recording_id: recordingId.value } } })

  async function rewrite(words: Word[], text: string) {
    const from = trimmed(words.map((word) => word.text).join(' '))
    const to = trimmed(text)
    await document.correct({ type: 'rewrite', changes: [{ words: words.map((word) => word.id), text }], fresh: 0 })
    last.value = null
    if (!to || bare(from) === bare(to)) return
    try {
      const more = await got(api.POST('/api/recordings/{recording_id}/occurrences', { ...path(), body: { find: from, put: to, parts: false } }))
      last.value = { from, to, more }
    } catch (error) {
      tellError(error)
    }
  }

  async function lookEverywhere(find: string, put: string, parts = false) {
    try {
      places.value = await got(api.POST('/api/recordings/{recording_id}/occurrences', { ...path(), body: { find, put, parts } }))
      title.value = `Replace “${find.trim()}” with “${put.trim()}”`
    } catch (error) {
      tellError(error)
    }
  }

  async function lookAtTerms() {
    try {
      places.value = await got(api.GET('/api/recordings/{recording_id}/terms/occurrences', path()))
      title.value = 'Apply names & terms'
    } catch (error) {
      tellError(error)
    }
  }

  async function apply(changes: Occurrence['change'][]) {
    places.value = null
    last.value = null
    await document.correct({ type: 'rewrite', changes, fresh: 0 })
    tell(`Changed ${changes.length} place${changes.length === 1 ? '' : 's'}. One undo brings all back.`)
  }

  async function addTerm() {
    if (!last.value) return
    const { from, to } = last.value
    try {
      await got(api.POST('/api/recordings/{recording_id}/terms', { ...path(), body: { text: to, heard: from } }))
      tell(`“${to}” is now among names & terms.`)
      if (!last.value.more.length) last.value = null
    } catch (error) {
      tellError(error)
    }
  }

  return { places, title, last, rewrite, lookEverywhere, lookAtTerms, apply, addTerm }
}
