import { computed, ref, shallowRef, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { wordRefs, type Token, type WordRef } from '@/document/tokens'
import type { Ask, Content, useDocument } from '@/document/useDocument'
import type { Choices } from '@/shared/useChoices'

export type Offer = Pick<Schemas['OfferOut'], 'kind' | 'over' | 'sets'> & { text?: Schemas['OfferOut']['text']; here?: boolean }
export type Laying = ReturnType<typeof useLaying>

/** What is selected: its first and last word, and what is said in it; `at` is the word at the playhead. */
interface Selected { refs: Ref<[WordRef, WordRef] | null>; said: Ref<string>; at?: () => [WordRef, WordRef] | null }

type Layer = Schemas['Layer']
/** What is open; without a span before it has come. */
type Own = Omit<Layer, 'span'> & { span?: Layer['span'] }

/** What is on its way to the sheet already: its settings are open, and may be changed. */
interface Coming { id: string; content: Content; words: [WordRef, WordRef] | null }

/**
 * Laying things over words, and changing what is laid there. `open` shows the settings of one, and where it is; `tries` shows
 * on the stage what is not kept yet.
 */
export function useLaying(
  sheet: ReturnType<typeof useDocument>, choices: Ref<Choices | null>, { refs, said, at = () => null }: Selected, open: (layer: string, come?: boolean /* it is open already, unless it was closed since */) => void,
  tries: { show: (ask: Ask) => void; stop: () => void },
) {
  const { doc, ask, edit } = sheet
  const layer = ref('') // the one whose settings are open
  const layers = () => doc.value?.sheet.layers ?? []
  const sent = shallowRef<Content | null>(null) // what the open one was changed to, until that has come back
  const coming = shallowRef<Coming | null>(null)
  let laid: Promise<unknown> = Promise.resolve() // until what is coming has come
  const taken = new Map<string, string>() // names that were not given, because another one was there
  const drawn = computed(() => layers().find((each) => each.id === layer.value)) // as the plan has it
  const own = computed<Own | undefined>(() => {
    const there = drawn.value ?? (coming.value?.id === layer.value ? { id: layer.value, content: coming.value.content } : undefined)
    return there && sent.value ? { ...there, content: sent.value } : there
  })

  function openLayer(id: string) {
    layer.value = id
    sent.value = null
    open(id)
  }

  /** Lay something over the selected words or the whole clip, and open its settings at once. */
  async function lay({ kind, over, sets, text = '', here = false }: Offer) {
    const before = doc.value
    const known = new Set(layers().map((each) => each.id))
    const title = doc.value?.title.slice(0, 160) ?? ''
    const words = { '': {}, 'what is said': { text: said.value || title }, 'the title': { text: title } }[text]
    const made = { id: fresh(), words: over === 'words' ? (refs.value ?? (here ? at() : null)) : over === 'to the end' ? toTheEnd() : null, content: { ...defaultsOf(kind), ...sets, ...words } as Content }
    coming.value = made
    openLayer(made.id)
    laid = ask({ ask: 'lay', content: made.content, layer: null, named: made.id, edition: doc.value?.edition ?? null, first: made.words?.[0] ?? null, last: made.words?.[1] ?? null })
    await laid
    if (coming.value === made) coming.value = null
    if (doc.value === before) return // it could not be laid, which was told
    // What stands alone took the place of one that was there, which keeps its name.
    const hidden = doc.value?.sheet.editions?.find((each) => each.id === doc.value?.edition)?.hidden ?? []
    const alike = layers().filter((each) => each.content.kind === kind && !hidden.includes(each.id))
    const there = alike.find((each) => !known.has(each.id)) ?? alike.find((each) => (over === 'clip') === !each.span?.runs?.length)
    if (!there) return
    if (there.id !== made.id) taken.set(made.id, there.id)
    if (layer.value !== made.id) return // another one was opened meanwhile
    layer.value = there.id
    open(there.id, true) // where it is, is known now
  }

  /** From the first selected word to the last one of the clip. */
  function toTheEnd(): [WordRef, WordRef] | null {
    const last = doc.value?.rows.flatMap((row) => row.tokens).findLast((each) => each.word && each.at !== null)
    return refs.value && last ? [refs.value[0], { origin: last.origin, word: last.word!.id }] : null
  }

  /** A name that no layer has. */
  const fresh = () => `n-${crypto.randomUUID().slice(0, 12)}`

  const put = (kind: string, words: [WordRef, WordRef] | null, content?: Partial<Content>) =>
    ask({ ask: 'lay', content: { ...defaultsOf(kind), ...content } as Content, layer: null, named: null, edition: doc.value?.edition ?? null, first: words?.[0] ?? null, last: words?.[1] ?? null })

  /** Do something that lays a layer; its settings are opened. */
  async function opening(work: () => Promise<unknown>) {
    const known = new Set(layers().map((each) => each.id))
    await work()
    const made = layers().find((each) => !known.has(each.id))
    if (made) openLayer(made.id)
  }

  /** A kind of content as the core would have it. */
  function defaultsOf(kind: string): Record<string, unknown> {
    const all = (choices.value?.contents[kind]?.properties ?? {}) as Record<string, { default?: unknown; const?: unknown }>
    return Object.fromEntries(Object.entries(all).map(([key, field]) => [key, field.const ?? field.default]))
  }

  /** Change the open one. What is changed before this has come back is changed in it: neither takes back the other. */
  async function change(content: Content) {
    const id = layer.value
    sent.value = content
    await laid
    await ask({ ask: 'lay', content, layer: taken.get(id) ?? id, named: null, edition: null, first: null, last: null })
    if (sent.value !== content) return
    sent.value = null
    tries.stop() // also where it could not be kept
  }

  /** Show the open one on the stage as it would be. */
  function tryOut(content: Content) {
    const words = drawn.value ? null : coming.value?.words
    const name = drawn.value ? { layer: layer.value, named: null } : { layer: null, named: layer.value }
    tries.show({ ask: 'lay', content, ...name, edition: doc.value?.edition ?? null, first: words?.[0] ?? null, last: words?.[1] ?? null })
  }

  /** Have the open one otherwise in the edition that is looked at: the copy it has is opened. */
  const setApart = () => opening(() => ask({ ask: 'set_apart', layer: layer.value, edition: doc.value!.edition }))

  /** Move an edge by frames. */
  function nudge(edge: 'in' | 'out', frames: number) {
    if (!drawn.value) return
    const { span } = drawn.value
    const moved = edge === 'in' ? { nudge_in: (span?.nudge_in ?? 0) + frames } : { nudge_out: (span?.nudge_out ?? 0) + frames }
    void edit([{ type: 'put_layer', layer: { ...drawn.value, span: { ...span, ...moved } } }])
  }

  function over(id: string, words: [WordRef, WordRef] | null) {
    const there = layers().find((each) => each.id === id)
    if (there && words) void ask({ ask: 'lay', content: there.content, layer: id, named: null, edition: null, first: words[0], last: words[1] })
  }

  return {
    layer,
    own,
    drawn,
    openLayer,
    lay,
    put,
    opening,
    defaultsOf,
    change,
    tryOut,
    setApart,
    nudge,
    remove: () => edit([{ type: 'remove_layer', layer: layer.value }]),
    /** Lay the open one over the selected words. */
    layOver: () => over(layer.value, refs.value),
    /** An edge of a bar was dragged: it lies over these words now. */
    reach: (id: string, tokens: Token[]) => over(id, wordRefs(tokens)),
    /** What lies over the whole clip, and what sleeps: it has no bar beside the rows. */
    barless: computed(() => doc.value?.bars.filter((bar) => bar.whole || bar.first === null) ?? []),
  }
}
