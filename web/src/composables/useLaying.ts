import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue'
import type { Offer } from '@/lanes/kinds'
import { wordRefs, type Token, type WordRef } from './tokens'
import type { Choices } from './useChoices'
import type { Content, useDocument } from './useDocument'

/** Laying things over words, and changing what is laid there. `open` shows the settings of one. */
export function useLaying(
  sheet: ReturnType<typeof useDocument>, choices: Ref<Choices | null>, refs: ComputedRef<[WordRef, WordRef] | null>, open: () => void,
) {
  const { doc, ask, edit } = sheet
  const layer = ref('') // the one whose settings are open
  const layers = () => doc.value?.sheet.layers ?? []
  const sent = shallowRef<Content | null>(null) // what the open one was changed to, until that has come back
  const drawn = computed(() => layers().find((each) => each.id === layer.value)) // as the plan has it
  const own = computed(() => (drawn.value && sent.value ? { ...drawn.value, content: sent.value } : drawn.value))

  function openLayer(id: string) {
    layer.value = id
    sent.value = null
    open()
  }

  /** Lay something over the selected words or the whole clip, and open its settings. */
  async function lay(offer: Offer) {
    const known = new Set(layers().map((each) => each.id))
    const [first, last] = offer.over === 'words' && refs.value ? refs.value : [null, null]
    const preset = offer.preset ? choices.value?.presets[offer.kind]?.[offer.preset] : {}
    await put(offer.kind, first, last, { ...preset, ...offer.content } as Partial<Content>)
    const hidden = doc.value?.sheet.editions?.find((each) => each.id === doc.value?.edition)?.hidden ?? []
    const alike = layers().filter((each) => each.content.kind === offer.kind && !hidden.includes(each.id))
    const made = alike.find((each) => !known.has(each.id)) ?? alike.find((each) => (offer.over === 'clip') === !each.span?.runs?.length)
    if (made) openLayer(made.id)
  }

  /** A slide of its own before everything, or after it; its settings are opened. */
  async function card(at: 'beginning' | 'end') {
    const known = new Set(layers().map((each) => each.id))
    await ask({ ask: 'add_card', at, seconds: null, content: { ...defaultsOf('slide'), text: doc.value!.title.slice(0, 160) } as Extract<Content, { kind: 'slide' }> })
    const made = layers().find((each) => !known.has(each.id))
    if (made) openLayer(made.id)
  }

  const put = (kind: string, first: WordRef | null, last: WordRef | null, content?: Partial<Content>) =>
    ask({ ask: 'lay', content: { ...defaultsOf(kind), ...content } as Content, layer: null, edition: doc.value?.edition ?? null, first, last })

  /** Show something over some words; the settings stay as they are. */
  const show = (media: string, first: WordRef, last: WordRef) => put('broll', first, last, { kind: 'broll', media })

  /** A closer view of some words. */
  const closer = (first: WordRef, last: WordRef) => put('punch', first, last, { kind: 'punch', toward: 'the face' })

  /** The captions of some words: hidden, or their settings opened. */
  async function wording(first: WordRef, last: WordRef, hidden: boolean) {
    const there = () => {
      const tokens = doc.value?.rows.flatMap((row) => row.tokens) ?? []
      const [a, b] = [first, last].map((ref) => tokens.findIndex((token) => token.origin === ref.origin && token.word?.id === ref.word))
      return doc.value?.bars.find((bar) => bar.kind === 'wording' && bar.first === a && bar.last === b)
    }
    if (hidden || !there()) await put('wording', first, last, hidden ? { kind: 'wording', hidden } : undefined)
    const made = there()
    if (made && !hidden) openLayer(made.layer)
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
  async function setApart() {
    const known = new Set(layers().map((each) => each.id))
    await ask({ ask: 'set_apart', layer: layer.value, edition: doc.value!.edition })
    const made = layers().find((each) => !known.has(each.id))
    if (made) openLayer(made.id)
  }

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
    card,
    show,
    closer,
    wording,
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
