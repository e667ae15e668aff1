import { computed, nextTick, ref, shallowRef, watch, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCorrecting } from '@/document/useCorrecting'
import { useCutting } from '@/document/useCutting'
import { useDocument, type Finding } from '@/document/useDocument'
import { useHouse } from '@/document/useHouse'
import { changed, reading, type Word } from '@/document/transcript'
import { toOutput } from '@/player/timeline'
import { useHearing } from '@/player/useHearing'
import { usePlayer, type Source } from '@/player/usePlayer'
import { jobsOf } from '@/recordings/recording'
import { useRecording } from '@/recordings/useRecording'
import { tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import type FindBar from './FindBar.vue'
import type { Tab } from './tabs'
import type TranscriptPage from './TranscriptPage.vue'
import { useChapters } from './useChapters'
import { useMakingClips } from './useMakingClips'
import { usePassages } from './usePassages'

/** All that the page of a recording holds: its words, its cuts, its player, what is selected and what is looked at. */
export function useDeskPage(id: Ref<string>, tab: Ref<Tab>, came: Tab | null = null) {
  const cameFor = ref(came) // the panel that the link here led to
  const { recording, transcript, setTranscript, reread, refresh } = useRecording(id)
  // An edit may have changed the words as well: it says how, or the page reads them anew.
  const sheet = useDocument((doc) => {
    const { words } = doc
    const at = transcript.data.value?.words_at
    if (words && words.before === at) setTranscript((before) => changed(before, words))
    else if (doc.words_at !== at) void reread()
  }, () => void reread())
  const { doc } = sheet
  const choices = useChoices()
  const { houses } = useHouse()
  const fixing = useCorrecting(id, sheet)

  const words = shallowRef<InstanceType<typeof TranscriptPage> | null>(null) // the page of words
  const finder = shallowRef<InstanceType<typeof FindBar> | null>(null)
  const picture = ref<HTMLCanvasElement | null>(null)

  const now = computed(() => recording.data.value)
  const sources = computed<Source[]>(() => {
    const media = now.value?.media
    if (!now.value?.playable || !media) return []
    return [{ id: id.value, title: now.value.title, duration: now.value.duration, has_picture: media.has_picture, width: media.width ?? 0, height: media.height ?? 0, playable: true }]
  })
  const { plan, follow } = useHearing(sheet.plan)
  const player = usePlayer({ plan, sources, picture })
  const hearAround = follow(player)

  const heard = computed(() => !!now.value?.words_ready)
  const passages = usePassages(id, heard)
  const chapters = useChapters(id, heard)
  watch(() => passages.found.value?.state, (state) => { if (state === 'done') void chapters.refetch() })
  const passage = ref('') // the one that is looked at
  const marked = computed(() => passages.shown.value.filter((each) => each.state === 'waiting' || each.id === passage.value).map(({ id, start, end, titles }) => ({ id, start, end, title: titles[0] ?? '', current: tab.value === 'passages' && id === passage.value })))
  watch([passage, tab], () => {
    const own = tab.value === 'passages' && passages.shown.value.find((each) => each.id === passage.value)
    if (own) words.value?.reveal(own.start)
  })

  async function readDesk() {
    try {
      sheet.opened(await got(api.GET('/api/documents/desk/{recording_id}', { params: { path: { recording_id: id.value } } })))
      await nextTick()
      if (document.activeElement === document.body || document.activeElement?.tagName === 'MAIN') words.value?.focus()
    } catch (error) {
      tellError(error)
    }
  }
  watch(
    () => transcript.data.value?.complete && now.value?.words_ready,
    (complete) => { if (complete && !doc.value) void readDesk() },
    { immediate: true },
  )
  // Speakers are suggested by a job: when it is done, what it did is read.
  watch(
    () => now.value?.jobs.find((job) => job.kind === 'speakers')?.state,
    (state, before) => { if (state === 'done' && before) void Promise.all([reread(), readDesk()]) },
  )

  const { chosen } = useCutting(sheet, words, player.toggle)
  const selected = computed(() => chosen.value.flatMap((token) => (token.kind === 'word' ? [token.word] : [])))
  const doubts = computed(() => (transcript.data.value?.words ?? []).filter((word) => word.kind === 'word' && word.confidence < (choices.value?.doubtful ?? 0)))

  /** Go to the next doubtful word after the selection, or the one before. */
  function doubt(step: 1 | -1) {
    const list = doubts.value
    const at = selected.value[0]?.start ?? player.source.value
    const next = step > 0 ? list.find((word) => word.start > at + 1e-6) ?? list[0] : list.findLast((word) => word.start < at - 1e-6) ?? list.at(-1)
    if (next) words.value?.selectWords([next])
  }

  function give(speaker: string) {
    const spoken = words.value?.spokenBySelected() ?? []
    if (spoken.length && doc.value) void sheet.correct({ type: 'set_speaker', words: spoken.map((word) => word.id), speaker })
  }

  /** Go to a time of the recording: the page shows it, also where it is cut. */
  function goTo(seconds: number) {
    words.value?.goTo(seconds)
    void player.seekSource(seconds)
  }

  /** Hear a find as it is, or as it would be after a sweep of it. */
  async function hear(each: Schemas['Reviewed'], after: Finding | null) {
    try {
      const seen = after && doc.value
        ? await got(api.POST('/api/documents/{document_id}/sweep/preview', { params: { path: { document_id: doc.value.id } }, body: after }))
        : null
      await hearAround(each.find.start, each.find.end, seen?.plan ?? null)
    } catch (error) {
      tellError(error)
    }
  }

  function rewrite(changing: Word[], text: string) {
    const texts = text.split(/\s+/)
    if (texts.length === changing.length) setTranscript((before) => reading(before, changing, texts))
    void fixing.rewrite(changing, text)
  }

  async function act(work: Promise<unknown>) {
    await work.catch(tellError)
    await refresh()
  }

  const bringIn = computed(() => jobsOf(now.value, 'bringing in'))
  return {
    cameFor,
    id, recording, transcript, sheet, doc, choices, houses, fixing, words, finder, picture, now, player, hearAround, passages, chapters, passage, marked, chosen, selected, doubts,
    doubt, give, goTo, hear, rewrite, act, refresh, bringIn,
    clips: useMakingClips(id, selected),
    finding: ref(false),
    found: ref<[number, number][]>([]),
    history: ref(false),
    stopped: computed(() => bringIn.value.some((job) => job.state === 'cancelled' || job.state === 'failed')),
    /** How long what is selected would be heard. */
    lasts: computed(() => {
      const [first, last, own] = [chosen.value[0], chosen.value.at(-1), sheet.plan.value]
      return first && last && own && selected.value.length > 1 ? toOutput(own, last.end) - toOutput(own, first.start) : null
    }),
  }
}

export type DeskPage = ReturnType<typeof useDeskPage>
