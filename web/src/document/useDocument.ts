import { computed, shallowRef } from 'vue'
import { api, ApiError, got, type Schemas } from '@/api/client'
import { tell, tellChange, tellError } from '@/shared/tell'
import { useFreshness } from '@/shared/useFreshness'
import { useUnsent } from '@/shared/useUnsent'

export type Doc = Schemas['DocumentOut']
export type Edit = Schemas['Change']['edit']
export type SweepKind = Schemas['Find']['kind']
export type Correction = Schemas['Correcting']['correction']
export type Finding = Schemas['Finding']
export type WordRef = Schemas['WordRef']
export type Ask = Schemas['Asking']['ask']
export type Content = Extract<Ask, { ask: 'lay' }>['content']
export type CaptionLayout = Schemas['CaptionLayout']

const RETRY = 3000 // milliseconds between two tries to reach the server, and the longest between two on top of what is newest
const FIRST_WAIT = 40 // milliseconds before the second try on top of what is newest
const PATIENT = 12 // tries after which the person is told that it takes long
const UNREACHED = [0, 502, 503, 504] // the server cannot be reached, or is too busy to do it
const STALE = Symbol('the document has moved on')
const wait = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds))

const CUT: Record<string, [string, string]> = {
  filler: ['filler sound', 'filler sounds'],
  phrase: ['filler phrase', 'filler phrases'],
  repeat: ['repeat', 'repeats'],
  restart: ['restart', 'restarts'],
  retake: ['earlier take', 'earlier takes'],
}

/** "Cut 3 filler sounds and 1 repeat, shortened 2 long pauses" */
function summary(counts: Partial<Record<string, number>>): string {
  const parts = Object.entries(CUT).flatMap(([kind, [one, many]]) => {
    const count = counts[kind]
    return count || (kind === 'filler' && count === 0) ? [`${count} ${count === 1 ? one : many}`] : []
  })
  const pauses = counts.pause ?? 0
  const shortened = `shortened ${pauses} long pause${pauses === 1 ? '' : 's'}`
  if (!parts.length) return shortened.charAt(0).toUpperCase() + shortened.slice(1)
  return `Cut ${parts.join(', ')}${counts.pause === undefined ? '' : `, ${shortened}`}`
}

/**
 * A document that several people may change. An edit names the version it was
 * made on; when that is stale the newer document is taken in and the edit, which
 * names words and not places, is made again on top of it.
 */
export function useDocument(onChange: (doc: Doc) => void = () => {}, onFailure: () => void = () => {}) {
  const doc = shallowRef<Doc | null>(null)
  const edition = () => doc.value?.edition // the one the page shows
  const unsent = useUnsent()
  let line: Promise<unknown> = Promise.resolve() // changes go out one after another

  type Send<T> = (id: string, version: number) => Promise<T>

  /** Send once; where the document has moved on, take in the newer one and say so (true). */
  async function once<T>(send: Send<T>): Promise<T | undefined | typeof STALE> {
    const before = doc.value
    if (!before) return
    try {
      return await send(before.id, before.version)
    } catch (error) {
      if (!(error instanceof ApiError) || error.status !== 409) throw error
      const newer = (error.body as { document?: Doc } | null)?.document
      if (!newer) throw error
      taken(newer)
      return STALE
    }
  }

  /**
   * Send until it lands on what is newest, with waits that grow. What is `kept` (in the browser, until it is answered)
   * goes on for as long as it takes, also while the server cannot be reached; anything else is given up, and said to be.
   */
  async function landed<T>(send: Send<T>, kept: boolean): Promise<T | undefined> {
    let moved = 0
    for (let unreached = 0; ;) {
      let result
      try {
        result = await once(send)
      } catch (error) {
        if (!kept || !(error instanceof ApiError) || !UNREACHED.includes(error.status)) throw error
        if (unreached++ === 0) tellError(error)
        await wait(RETRY)
        continue
      }
      if (result !== STALE) {
        if (moved) tellChange('This was changed elsewhere in the meantime. Your change was made on top of it.')
        return result
      }
      moved++
      if (moved === PATIENT) {
        if (!kept) throw new ApiError(409, 'This was not done: others are changing the clip all the time. What you see is the newest; try once more.')
        tellChange('Others are changing this all the time, so your change is not saved yet. It is kept here, and made as soon as it can be.')
      }
      await wait(Math.min(FIRST_WAIT * 2 ** (moved - 1), RETRY) * (0.5 + Math.random()))
    }
  }

  /** Send on what this page shows, and on nothing newer. */
  async function onThis<T>(send: Send<T>): Promise<T | undefined> {
    const result = await once(send)
    if (result !== STALE) return result
    tellChange('This was changed elsewhere. What you see is the newest; try once more.')
  }

  /** Take turns. A change that is not made `again` is for this version alone; one that is `kept` goes out whatever happens. */
  function queue<T>(send: Send<T>, take: (result: T) => void, again = true, kept: (() => void) | null = null): Promise<void> {
    const turn = line.then(async () => {
      try {
        const result = again ? await landed(send, !!kept) : await onThis(send)
        if (result !== undefined) take(result)
      } catch (error) {
        tellError(error)
        onFailure()
      } finally {
        kept?.()
      }
    })
    line = turn
    return turn
  }

  function taken(newer: Doc) {
    const before = doc.value
    doc.value = newer
    // What is missing stays missing: it is told once, not with every answer.
    if (newer.told && (newer.told !== before?.told || newer.id !== before.id)) tellChange(newer.told)
    onChange(newer)
  }

  /** Take in a document that was read, and make the changes that an earlier page could not send. */
  function opened(read: Doc) {
    rememberOpening(read)
    taken(read)
    const left = unsent.takeLeft(read.id)
    for (const each of left) void (each.kind === 'edit' ? edit([each.change]) : correct(each.change, each.recording))
    if (left.length) tell('What was not saved when you left is saved now.')
  }

  /** Correct the transcript; what was corrected before waits its turn. */
  function correct(correction: Correction, recording?: string) {
    if (!doc.value) return Promise.resolve()
    const answered = unsent.keep({ document: doc.value.id, at: Date.now(), kind: 'correction', change: correction, recording })
    return queue(
      (document_id, version) => got(api.POST('/api/documents/{document_id}/corrections', { params: { path: { document_id } }, body: { version, correction, recording, edition: edition() } })),
      taken, true, answered,
    )
  }

  function edit(edits: Edit[]) {
    if (!edits.length || !doc.value) return Promise.resolve()
    const change: Edit = edits.length === 1 ? edits[0]! : { type: 'batch', edits }
    const answered = unsent.keep({ document: doc.value.id, at: Date.now(), kind: 'edit', change })
    return queue(
      (document_id, version) => got(api.POST('/api/documents/{document_id}/edits', { params: { path: { document_id } }, body: { version, edit: change, edition: edition() } })),
      taken, true, answered,
    )
  }

  const undo = () =>
    queue((document_id, version) => got(api.POST('/api/documents/{document_id}/undo', {
      params: { path: { document_id } }, body: { version, since: openedAt(document_id), edition: edition() } })), taken, false)

  const redo = () =>
    queue((document_id, version) => got(api.POST('/api/documents/{document_id}/redo', { params: { path: { document_id } }, body: { version, edition: edition() } })), taken, false)

  /** Make all as it was after a change of the history. */
  const goBack = (revision_id: number) =>
    queue((document_id, version) => got(api.POST('/api/documents/{document_id}/history/{revision_id}', {
      params: { path: { document_id, revision_id } }, body: { version, edition: edition() } })), taken, false)

  /** Do what is asked for on a clip: move, add, split, trim, lay. */
  const ask = (wanted: Ask) =>
    made((document_id, version, shown) => got(api.POST('/api/documents/{document_id}/asks', {
      params: { path: { document_id } }, body: { version, ask: wanted, edition: shown } })))

  /** Make one change by a request of one's own, which answers with the document. */
  function made(send: (id: string, version: number, edition: string | undefined) => Promise<Doc>) {
    const answered = unsent.sent()
    return queue((id, version) => send(id, version, edition()), taken).finally(answered)
  }

  /** Show something else where a picture or a slide is. */
  const anotherPicture = (layer: string) =>
    made((document_id, version, shown) => got(api.POST('/api/drafts/clips/{document_id}/pictures/{layer}', { params: { path: { document_id, layer }, query: { version, edition: shown } } })))

  /** Read the document anew, for an edition of it. */
  const show = (wanted: string | undefined) =>
    queue((document_id) => got(api.GET('/api/documents/{document_id}', { params: { path: { document_id }, query: { edition: wanted } } })), taken)

  /** Read the document anew where there may be something new to see; that is asked without compiling it. */
  async function refresh() {
    const known = doc.value
    if (!known || unsent.saving.value) return
    const now = await got(api.GET('/api/documents/{document_id}/stamp', { params: { path: { document_id: known.id } } })).catch(() => null)
    if (now && now.stamp !== known.stamp && doc.value === known && !unsent.saving.value) await show(edition())
  }
  useFreshness(refresh, () => !!doc.value?.preparing || !!doc.value?.looking)

  const rename = (title: string) =>
    queue((document_id, version) => got(api.PATCH('/api/documents/{document_id}', { params: { path: { document_id } }, body: { version, title, edition: edition() } })), taken)

  function sweep(wanted: Finding) {
    return queue(
      (document_id, version) =>
        got(api.POST('/api/documents/{document_id}/sweep', { params: { path: { document_id } }, body: { version, edition: edition(), ...wanted } })),
      (done) => {
        if (done.document.version === doc.value?.version) tell('Nothing left to sweep: nothing was found that is not cut already.')
        else tell(`${summary(done.counts)}: ${done.saved.toFixed(1)} s saved.`)
        taken(done.document)
      },
    )
  }

  /** Lay cameras over the whole clip, by who talks. */
  const direct = () =>
    queue((document_id, version) => got(api.POST('/api/documents/{document_id}/cameras/who-talks', { params: { path: { document_id } }, body: { version, edition: edition() } })), taken)

  return {
    doc,
    direct,
    plan: computed(() => doc.value?.plan ?? null),
    saving: unsent.saving,
    /** Undo stops at what was there when this page was opened; the history reaches further. */
    canUndo: computed(() => !!doc.value && doc.value.undoes !== null && doc.value.undoes > (openedAt(doc.value.id) ?? 0)),
    opened,
    edit,
    correct,
    undo,
    redo,
    goBack,
    ask,
    made,
    anotherPicture,
    show,
    rename,
    sweep,
  }
}

/** The newest change there was when this tab first opened a document; a reload keeps it, a new tab begins anew. */
function openedAt(document: string): number | null {
  const found = sessionStorage.getItem(`hovvet-opened:${document}`)
  return found === null ? null : Number(found)
}

function rememberOpening(doc: Doc) {
  if (openedAt(doc.id) === null) sessionStorage.setItem(`hovvet-opened:${doc.id}`, String(doc.newest))
}
