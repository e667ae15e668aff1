import { watch, type Ref } from 'vue'
import { tell } from '@/shared/tell'
import type { Clip } from './useClips'
import { busy, type Recording } from './recording'

const named = (all: { title: string }[]) => `${all.map((each) => `“${each.title}”`).join(' and ')} ${all.length === 1 ? 'is' : 'are'}`

/** Tell quietly when a recording became ready, also when another tab began it. */
export function useReadyNotice(recordings: Ref<Recording[]>) {
  watch(recordings, (now, before) => {
    const working = new Set(before.filter((each) => busy(each)).map((each) => each.id))
    const ready = now.filter((each) => working.has(each.id) && !busy(each) && each.words_ready && each.playable)
    if (ready.length) tell(`${named(ready)} ready.`)
  })
}

/** Tell quietly, on every page, when the exports of a clip are done, or have failed. */
export function useExportNotice(clips: Ref<Clip[]>) {
  watch(clips, (now, before) => {
    const waiting = new Set(before.filter((each) => each.export === 'waiting').map((each) => each.id))
    const done = now.filter((each) => waiting.has(each.id) && (each.export === 'ready' || each.export === 'changed'))
    if (done.length) tell(`${named(done)} exported.`)
  })
}
