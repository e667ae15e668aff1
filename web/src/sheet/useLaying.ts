import { computed, ref, shallowRef, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { wordRefs, type Token, type WordRef } from '@/document/tokens'
import type { Content, useDocument } from '@/document/useDocument'
import type { Choices } from '@/shared/useChoices'

export type Offer = Pick<Schemas['OfferOut'], 'kind' | 'over' | 'sets'> & { text?: Schemas['OfferOut']['text'] }
export type Laying = ReturnType<typeof useLaying>

/** What is selected: its first and last word, and what is said in it. */
interface Selected { refs: Ref<[WordRef, WordRef] | null>; said: Ref<string> }

/** Laying things over words, and changing what is laid there. `open` shows the settings of one, and where it is. */
export function useLaying(sheet: ReturnType<typeof useDocument>, choices: Ref<Choices | null>, { refs, said }: Selected, open: (layer: string) => void) {
  const { doc, ask, edit } = sheet
  const layer = ref('') // the one whose settings are open
  const layers = () => doc.value?.sheet.layers ?? []
  const sent = shallowRef<Content | null>(null) // what the open one was changed to, until that has come back
  const drawn = computed(() => layers().find((each) => each.id === layer.value)) // as the plan has it
  const own = computed(() => (drawn.value && sent.value ? { ...drawn.value, content: sent.value } : drawn.value))

  function openLayer(id: string) {
    layer.value = id
    sent.value = null
    open(id)
  }

  /** Lay something over the selected words or the whole clip, and open its settings. */
  async function lay({ kind, over, sets, text = '' }: Offer) {
    const known = new Set(layers().map((each) => each.id))
    const title = doc.value?.title.slice(0, 160) ?? ''
    const words = { '': {}, 'what is said': { text: said.value || title }, 'the title': { text: title } }[text]
    await put(kind, over === 'words' ? refs.value : null, { ...sets, ...words } as Partial<Content>)
    const hidden = doc.value?.sheet.editions?.find((each) => each.id === doc.value?.edition)?.hidden ?? []
    const alike = layers().filter((each) => each.content.kind === kind && !hidden.includes(each.id))
    const made = alike.find((each) => !known.has(each.id)) ?? alike.find((each) => (over === 'clip') === !each.span?.runs?.length)
    if (made) openLayer(made.id)
  }

  const put = (kind: string, words: [WordRef, WordRef] | null, content?: Partial<Content>) =>
    ask({ ask: 'lay', content: { ...defaultsOf(kind), ...content } as Content, layer: null, edition: doc.value?.edition ?? null, first: words?.[0] ?? null, last: words?.[1] ?? null })

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
  function change(content: Content) {
    sent.value = content
    void ask({ ask: 'lay', content, layer: layer.value, edition: null, first: null, last: null }).finally(() => { if (sent.value === content) sent.value = null })
  }

  /** Have the open one otherwise in the edition that is looked at: the copy it has is opened. */
  const setApart = () => opening(() => ask({ ask: 'set_apart', layer: layer.value, edition: doc.value!.edition }))

  /** Move an edge by frames. */
  function nudge(edge: 'in' | 'out', frames: number) {
    if (!own.value) return
    const span = own.value.span ?? {}
    const moved = edge === 'in' ? { nudge_in: (span.nudge_in ?? 0) + frames } : { nudge_out: (span.nudge_out ?? 0) + frames }
    void edit([{ type: 'put_layer', layer: { ...own.value, span: { ...span, ...moved } } }])
  }

  function over(id: string, words: [WordRef, WordRef] | null) {
    const there = layers().find((each) => each.id === id)
    if (there && words) void ask({ ask: 'lay', content: there.content, layer: id, edition: null, first: words[0], last: words[1] })
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
