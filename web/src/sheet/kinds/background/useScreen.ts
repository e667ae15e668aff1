import { computed, ref, watch } from 'vue'
import { ElMessage } from 'element-plus'
import { api, got, type Schemas } from '@/api/client'
import { assetFile } from '@/api/files'
import type { Doc } from '@/document/useDocument'

type Seen = Schemas['ScreenSeen']
type Colour = Schemas['ScreenColour']
export interface Place { across: number; down: number }

/** What a background is taken out of where the clip stands, as it was filmed, and the colour of the screen in it. */
export function useScreen(props: { doc: Doc; layer: string; time: number }, keep: (colour: Colour) => void) {
  const seen = ref<Seen | null>(null)
  const told = ref('') // why there is nothing to be seen
  const places = ref<Place[]>([]) // in what is seen now
  const asking = ref(false)
  const path = () => ({ document_id: props.doc.id })

  const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
  /** The playhead, within what this lies over: told anew only where it stands. */
  const at = computed(() => Math.min(Math.max(props.time, bar.value?.start ?? 0), bar.value?.end ?? 0))

  async function look() {
    if (bar.value?.start == null) return
    const query = { seconds: at.value, edition: props.doc.edition }
    const found = await got(api.GET('/api/colour/documents/{document_id}/screens/{layer}', { params: { path: { ...path(), layer: props.layer }, query } }))
      .catch((problem: Error) => void (told.value = problem.message))
    if (!found) return void (seen.value = null)
    told.value = ''
    if (found.media !== seen.value?.media || found.seconds !== seen.value.seconds) places.value = []
    seen.value = found
  }
  let soon: ReturnType<typeof setTimeout> | undefined
  watch([() => props.layer, at, () => props.doc.version, () => bar.value?.start], () => {
    clearTimeout(soon)
    soon = setTimeout(look, LOOK_AFTER)
  })

  /** The colour by all places that were picked, or by what is around the picture where none were. */
  async function ask(spots: Place[]) {
    asking.value = true
    const body = { layer: props.layer, seconds: at.value, edition: props.doc.edition, spots: spots.map((each) => ({ ...each, seconds: seen.value?.seconds ?? null })) }
    const colour = await got(api.POST('/api/colour/documents/{document_id}/screens', { params: { path: path() }, body }))
      .catch((problem: Error) => void ElMessage.warning(problem.message))
    asking.value = false
    if (!colour) return false
    keep(colour)
    return true
  }

  return {
    seen, told, places, asking, look,
    /** Where what is seen is read from. */
    source: computed(() => (seen.value?.seconds == null ? assetFile(seen.value?.media ?? '') : `/api/recordings/${seen.value.media}/files/working#t=${seen.value.seconds.toFixed(2)}`)),
    find: () => ask([]),
    async pick(place: Place) {
      const wanted = [...places.value, place]
      if (await ask(wanted)) places.value = wanted
    },
    startOver: () => void (places.value = []),
  }
}

const LOOK_AFTER = 250 // milliseconds that the playhead stands: it is not asked while it plays
