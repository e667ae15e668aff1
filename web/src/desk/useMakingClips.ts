import { ElMessageBox } from 'element-plus'
import { computed, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, got } from '@/api/client'
import { tell, tellError } from '@/shared/tell'
import type { Word } from '@/document/transcript'
import { useClips } from '@/recordings/useClips'

/** The clips of a recording, and making more of the words that are selected in it. */
export function useMakingClips(recording: Ref<string>, words: Ref<Word[]>) {
  const router = useRouter()
  const all = useClips()
  const clips = computed(() => all.of(recording.value))

  /** A clip of the selected words, in a house style or in none; it is opened. */
  const makeClip = (house = '') => clipOf(words.value, house)

  /** A clip of words, in a house style or in none; it is opened. */
  async function clipOf(of: Word[], house = '') {
    const first = of[0]
    const last = of.at(-1)
    if (!first || !last) return
    try {
      const clip = await got(
        api.POST('/api/documents/desk/{recording_id}/clips', {
          params: { path: { recording_id: recording.value } },
          body: { first: first.id, last: last.id, house },
        }),
      )
      madeOf([clip])
    } catch (error) {
      tellError(error)
    }
  }

  /** Clips were made: a single one is opened. */
  function madeOf(made: { id: string }[]) {
    void all.query.refetch()
    if (made.length === 1) void router.push({ name: 'sheet', params: { id: made[0]!.id } })
    else tell(`${made.length} clips were made, swept as this show has it. They are under Clips.`)
  }

  /** The selected stretch as a film (or a sound) of the Shelf: to be laid over words elsewhere. */
  async function keepPart() {
    const first = words.value[0]
    const last = words.value.at(-1)
    if (!first || !last) return
    const said = words.value.map((word) => word.text).join(' ').slice(0, 60)
    const answer = await ElMessageBox.prompt('It can be laid over what is said in any clip.', 'Keep this part on the Shelf', {
      inputValue: said,
      inputPattern: /\S/,
      inputErrorMessage: 'Give it a name.',
      confirmButtonText: 'Keep it',
      cancelButtonText: 'Cancel',
    }).catch(() => null)
    if (!answer) return
    const name = (answer as { value: string }).value.trim().slice(0, 80)
    const made = await got(api.POST('/api/assets/parts', { body: { recording: recording.value, start: first.start, end: last.end, name } })).catch(tellError)
    if (made) tell(`“${made.name}” is being cut, and stands on the Shelf.`)
  }

  return { clips, makeClip, clipOf, madeOf, keepPart }
}
