import { onScopeDispose, ref } from 'vue'
import { api, got } from '@/api/client'
import type { Heard } from './prompting'
import { sixteenBits } from '@/capture/wav'
import { Slower } from './slower'

const RATE = 16_000
const LISTENS = 6 // seconds that are listened to at once
const EVERY = 1.2 // seconds from one answer to the next question

/** Hears where somebody is in a script: the last seconds again and again, by the server's recogniser. */
export function useFollowing(script: () => string, word: () => number, now: () => number, listen: (heard: (samples: Float32Array, rate: number) => void) => () => void) {
  const heard = ref<Heard | null>(null)
  const sound = new Float32Array(LISTENS * RATE)
  const slower = new Slower(RATE)
  let deaf: (() => void) | null = null
  let round = 0

  function take(samples: Float32Array, rate: number) {
    const made = slower.take(samples, rate)
    sound.copyWithin(0, made.length)
    sound.set(made, sound.length - made.length)
  }

  async function ask(mine: number) {
    while (mine === round) {
      await new Promise((done) => setTimeout(done, EVERY * 1000))
      if (mine !== round) return
      const at = now()
      // Where it was when what is heard was begun: what was read since then is in it.
      const answer = await got(api.POST('/api/scripts/{script_id}/follow', {
        params: { path: { script_id: script() }, query: { word: Math.max(Math.floor(word()), 0) } },
        body: sixteenBits(sound) as never, bodySerializer: (given) => given as never, headers: { 'Content-Type': 'application/octet-stream' },
      })).catch(() => null)
      if (mine !== round) return
      heard.value = { word: answer?.word ?? 0, at, how: answer?.sure ? 'sure' : answer?.silent || answer?.strayed ? 'waits' : 'unsure' }
    }
  }

  function stop() {
    round++
    deaf?.()
    deaf = null
    heard.value = null
  }

  onScopeDispose(stop)
  return {
    heard,
    start() {
      stop()
      sound.fill(0)
      deaf = listen(take)
      void ask(round)
    },
    stop,
  }
}
