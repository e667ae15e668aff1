import { useQueryClient } from '@tanstack/vue-query'
import { ref, watch, type Ref } from 'vue'
import { ElMessage } from 'element-plus'
import { api, got, type Schemas } from '@/api/client'
import type { Content } from '@/document/useDocument'

type Background = Extract<Content, { kind: 'background' }>
type Recording = Schemas['RecordingOut']

/** The background that is kept with a recording: all its clips have it that do not say otherwise. */
export function useBackground(media: Ref<string | null>) {
  const recording = ref<Recording | null>(null)
  const keeping = ref(false)
  const queries = useQueryClient()

  watch(media, async (key) => {
    recording.value = null
    if (!key) return
    const found = await api.GET('/api/recordings/{recording_id}', { params: { path: { recording_id: key } } })
    if (media.value === key) recording.value = found.data ?? null // a still is none
  }, { immediate: true })

  async function change(background: Background | null) {
    if (!recording.value) return false
    keeping.value = true
    const body = { version: recording.value.version, background }
    const made = await got(api.PATCH('/api/recordings/{recording_id}', { params: { path: { recording_id: recording.value.id } }, body }))
      .catch((problem: Error) => void ElMessage.error(problem.message))
    keeping.value = false
    if (made) recording.value = made
    void queries.invalidateQueries()
    return !!made
  }

  return {
    recording, keeping,
    isKept: (background: Background) => JSON.stringify(ordered(recording.value?.background)) === JSON.stringify(ordered(background)),
    keepWith: (background: Background) => change(background),
    takeOff: () => change(null),
  }
}

const ordered = (of: object | null | undefined) => Object.entries(of ?? {}).sort(([a], [b]) => a.localeCompare(b))
