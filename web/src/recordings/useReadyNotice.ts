import { watch, type Ref } from 'vue'
import { tell } from '@/shared/tell'
import type { Clip } from './useClips'
import { busy, type Recording } from './recording'

/** Tell quietly when a recording became ready or an export was done, also when another tab began it. */
export function useReadyNotice(recordings: Ref<Recording[]>, clips: Ref<Clip[]>) {
  watch(recordings, (now, before) => {
    const working = new Set(before.filter((each) => busy(each)).map((each) => each.id))
    const ready = now.filter((each) => working.has(each.id) && !busy(each) && each.words_ready && each.playable)
    if (ready.length) tell(`${ready.map((each) => `“${each.title}”`).join(' and ')} ${ready.length === 1 ? 'is' : 'are'} ready.`)
  })
  watch(clips, (now, before) => {
    const waiting = new Set(before.filter((each) => each.export === 'waiting').map((each) => each.id))
    const done = now.filter((each) => waiting.has(each.id) && each.export === 'ready')
    if (done.length) tell(`${done.map((each) => `“${each.title}”`).join(' and ')} ${done.length === 1 ? 'is' : 'are'} exported.`)
  })
}
