import { useQuery } from '@tanstack/vue-query'
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, got } from '@/api/client'
import { useCutting } from '@/document/useCutting'
import { useDocument, type Content } from '@/document/useDocument'
import { dressIn, newerOf, useHouse, type House } from '@/document/useHouse'
import { wordRefs, type WordRef } from '@/document/tokens'
import type { Word } from '@/document/transcript'
import { fps } from '@/player/timeline'
import { usePeaks } from '@/player/usePeaks'
import { usePlayer } from '@/player/usePlayer'
import { usePlayPart } from '@/player/usePlayPart'
import { useProof } from '@/proof/useProof'
import { commented } from '@/review/commented'
import { useComments } from '@/review/useComments'
import { busy } from '@/recordings/recording'
import { useChoices } from '@/shared/useChoices'
import { seenAt } from '@/stage/seen'
import type { Dialog, Drawer } from './drawers'
import type SheetRows from './SheetRows.vue'
import { useClip } from './useClip'
import { useLaying } from './useLaying'
import { soloed } from './solo'
import { useLooking } from './useLooking'
import { useMoving } from './useMoving'
import { useTrying } from './useTrying'
import { useTrimming } from './useTrimming'

/** All that the page of a clip holds: its sheet, its player, what is selected, and what stands beside the rows. */
export function useSheetPage(id: Ref<string>) {
  const sheet = useDocument()
  const { doc, plan, edit, ask } = sheet
  const choices = useChoices()
  const first = useQuery({
    queryKey: ['document', id],
    queryFn: () => got(api.GET('/api/documents/{document_id}', { params: { path: { document_id: id.value } } })),
    staleTime: Infinity,
    gcTime: 0,
  })
  watch(first.data, (loaded) => { if (loaded) sheet.opened(loaded) }, { immediate: true })

  const sources = computed(() => doc.value?.sources ?? [])
  const home = computed(() => sources.value[0] ?? null) // the recording that the clip began with
  /** While a recording of the clip is still being prepared: how far that is. */
  const unready = computed(() => sources.value.find((each) => !each.playable)?.id)
  const preparing = useQuery({
    queryKey: ['recording', unready],
    queryFn: () => got(api.GET('/api/recordings/{recording_id}', { params: { path: { recording_id: unready.value! } } })),
    enabled: () => !!unready.value,
    refetchInterval: (query) => (query.state.data?.playable === false && busy(query.state.data) ? 1500 : false),
  })
  watch(() => preparing.data.value?.playable, (playable) => { if (playable) void sheet.show(doc.value?.edition) })

  const rows = ref<InstanceType<typeof SheetRows> | null>(null)
  const picture = shallowRef<HTMLCanvasElement | null>(null)
  const letters = shallowRef<HTMLCanvasElement | null>(null)
  const fonts = computed(() => (choices.value?.fonts ?? []).map((file) => `/static/fonts/${file}`))
  const trying = useTrying(doc)
  const solo = ref<string | null>(null) // what is heard alone
  const shown = computed(() => soloed(trying.plan.value ?? plan.value, solo.value))
  const player = usePlayer({ plan: shown, sources, document: id, picture, words: letters, fonts })

  const { chosen } = useCutting(sheet, rows, player.toggle)
  const refs = computed(() => wordRefs(chosen.value))
  const hasWords = computed(() => chosen.value.some((token) => token.kind === 'word'))
  /** What is said in the selected words. */
  const said = computed(() => chosen.value.flatMap((token) => (token.kind === 'word' ? [token.word.text] : [])).join(' ').slice(0, 160))

  // What stands beside the rows, one at a time.
  const drawer = ref<Drawer | null>(null)
  const dialog = ref<Dialog | null>(null)
  /** One drawer at a time; opened again it closes, and the focus goes back to the rows. */
  function openDrawer(name: Drawer | null) {
    drawer.value = drawer.value === name ? null : name
    if (!drawer.value) back()
  }

  /** Back to where the drawer was opened: to the bar of what is laid, or to the rows. */
  let opener: string | undefined
  function back() {
    const bar = opener && document.querySelector<HTMLElement>(`[data-layer="${CSS.escape(opener)}"]:not([tabindex="-1"])`)
    if (bar) bar.focus()
    else rows.value?.focus()
    opener = undefined
  }

  /** The word that is heard at the playhead, or the last one before it. */
  function atPlayhead(): [WordRef, WordRef] | null {
    const tokens = doc.value?.rows.flatMap((row) => row.tokens).filter((each) => each.word && each.at !== null) ?? []
    const token = tokens.findLast((each) => each.at! <= player.time.value + 1e-3) ?? tokens[0]
    return token ? [{ origin: token.origin, word: token.word!.id }, { origin: token.origin, word: token.word!.id }] : null
  }

  const { lookAt, isThere } = useLooking(player, doc, chosen)
  const laying = useLaying(sheet, choices, { refs, said, at: atPlayhead }, (layer, come) => {
    if (come && drawer.value !== 'layer') return
    if (drawer.value !== 'layer') opener = (document.activeElement as HTMLElement | null)?.dataset.layer
    drawer.value = 'layer'
    lookAt(layer)
  }, trying)
  const comments = useComments(doc)
  const { houses } = useHouse()

  /** What of the recording is on the stage now. */
  const seen = computed(() => {
    const now = plan.value
    return now ? seenAt(now, Math.round(player.time.value * fps(now)), (media) => sources.value.find((each) => each.id === media)) : undefined
  })

  /** Lay a framing that was chosen by hand over the selected words, or else over the phrase at the playhead. */
  function pin(content: Content) {
    const row = doc.value?.rows.findLast((each) => each.at !== null && each.at <= player.time.value + 1e-3)
    const heard = row?.tokens.flatMap((token) => (token.word && token.at !== null ? [{ origin: token.origin, word: token.word.id }] : [])) ?? []
    const [begin, end] = refs.value ?? [heard[0], heard.at(-1)]
    if (begin && end) void ask({ ask: 'lay', content, layer: null, named: null, edition: doc.value?.edition ?? null, first: begin, last: end })
  }

  return {
    beats: useLocalStorage('hovvet-beats', false), // whether they are shown
    solo, sheet, doc, plan, edit, ask, choices, first, sources, home, preparing, player, rows, picture, letters, chosen, refs, hasWords, said, drawer, dialog, openDrawer, laying, isThere, seen, pin,
    close: () => openDrawer(null),
    peaks: usePeaks(sources),
    proof: useProof(doc),
    comments,
    commented: computed(() => (doc.value ? commented(doc.value, comments.open.value) : new Set<string>())), // words on the sheet
    moving: useMoving(sheet, refs, () => rows.value?.clear()),
    clip: useClip(id, sheet, home),
    trimming: useTrimming(plan, player),
    playPart: usePlayPart(player),
    large: ref(false), // the stage takes the whole page
    guarded: ref(false), // the safe area is drawn on the stage
    before: ref<WordRef | null>(null), // where what is added will stand; null: at the end
    newer: computed(() => newerOf(doc.value, houses.value)),
    dress: (house: House) => void dressIn(sheet, house),
    rewrite: (words: Word[], text: string, recording: string) =>
      void sheet.correct({ type: 'rewrite', changes: [{ words: words.map((word) => word.id), text }], fresh: 0 }, recording),
  }
}

export type SheetPage = ReturnType<typeof useSheetPage>
