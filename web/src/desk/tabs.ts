import { h, type VNode } from 'vue'
import { cancelJob } from '@/shared/jobs'
import CamerasPanel from './CamerasPanel.vue'
import ChaptersPanel from './ChaptersPanel.vue'
import ClipsPanel from './ClipsPanel.vue'
import PassagesPanel from './PassagesPanel.vue'
import SoundPanel from './SoundPanel.vue'
import SpeakersPanel from './SpeakersPanel.vue'
import TermsPanel from './TermsPanel.vue'
import type { DeskPage } from './useDeskPage'

export type Tab = 'sweep' | 'passages' | 'speakers' | 'sound' | 'cameras' | 'terms' | 'clips'

/** The panels beside the words of a recording, as they stand. */
export const TABS: [Tab, string][] = [['sweep', 'Sweep'], ['passages', 'Passages'], ['speakers', 'Speakers'], ['sound', 'Sound'], ['cameras', 'Cameras'], ['terms', 'Terms'], ['clips', 'Clips']]

const waits = () => h('p', { class: 'quiet', style: 'margin: 4px 0 10px' }, 'This waits until all words have been found.')

/** What each of them shows; that of the sweep is there all along, so that what was looked at stays open. */
const PANELS: Record<Exclude<Tab, 'sweep'>, (page: DeskPage) => (VNode | false | null)[]> = {
  passages: ({ cameFor, passages, passage, now, hearAround, clips, chapters, player, goTo }) => [
    h(PassagesPanel, {
      current: passage.value, 'onUpdate:current': (id) => (passage.value = id), passages, ready: !!now.value?.words_ready, focused: cameFor.value === 'passages',
      onHear: ({ start, end }) => void hearAround(start, end), onMade: clips.madeOf,
    }),
    passages.found.value?.state === 'done' && h(ChaptersPanel, { chapters, source: player.source.value, onGo: goTo }),
  ],
  speakers: ({ id, doc, choices, transcript, now, sheet, give, refresh, act }) => {
    if (!doc.value) return [waits()]
    if (!choices.value || !transcript.data.value) return []
    return [h(SpeakersPanel, {
      recordingId: id.value, transcript: transcript.data.value, jobs: now.value?.jobs ?? [], choices: choices.value,
      onCorrect: sheet.correct, onGive: give, onStarted: refresh, onCancel: (job) => void act(cancelJob(job)),
    })]
  },
  sound: ({ choices, now, refresh, act }) => [
    now.value?.media?.has_sound && choices.value
      ? h(SoundPanel, { recording: now.value, choices: choices.value, onChanged: refresh, onCancel: (job) => void act(cancelJob(job)) })
      : h('p', { class: 'quiet' }, now.value?.media ? 'There is no sound in this recording.' : 'This waits until the file has been looked into.'),
  ],
  cameras: ({ id, player }) => [h(CamerasPanel, { recordingId: id.value, time: player.source.value })],
  terms: ({ id, doc, fixing }) => [doc.value ? h(TermsPanel, { recordingId: id.value, onReview: fixing.lookAtTerms }) : waits()],
  clips: ({ clips }) => [h(ClipsPanel, { clips: clips.clips.value })],
}

/** What a tab shows besides the sweep. */
export const panelOf = (tab: Tab, page: DeskPage) => (tab === 'sweep' ? null : PANELS[tab](page))
