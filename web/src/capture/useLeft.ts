import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useSession } from '@/account/session'
import { api, got } from '@/api/client'
import { tellError } from '@/shared/tell'
import type { Kept } from './kept'
import { forgetLeft, leftBy, SendWhile } from './sendWhile'

const LOOKS = 5000 // ms: what was just broken off is told of once it is sure

/** Something that was broken off while it was recorded: what arrived of it (`upload`), and what is still in this browser (`left`). */
export interface BrokenOff {
  id: string
  name: string
  seconds: number | null // that arrived
  script: string
  left: Kept | null
  upload: string
}

/** What was broken off while it was recorded, to be kept or thrown away. */
export function useLeft(looks: () => boolean) {
  const session = useSession()
  const query = useQuery({
    queryKey: ['broken-off'],
    queryFn: async () => ({ arrived: await got(api.GET('/api/broken-off')), left: await leftBy(session.user ?? '') }),
    enabled: looks,
    refetchInterval: LOOKS,
  })
  const trouble = ref('')
  const working = ref('')

  const list = computed<BrokenOff[]>(() => {
    const { arrived = [], left = [] } = query.data.value ?? {}
    const own = (upload: string) => left.find((each) => each.url.endsWith(upload)) ?? null
    return [
      ...arrived.map((each) => ({ id: each.id, name: each.name, seconds: each.seconds, script: each.script ?? '', left: own(each.id), upload: each.id })),
      ...left.filter((each) => !arrived.some(({ id }) => each.url.endsWith(id))).map((each) => ({ id: each.id, name: each.name, seconds: null, script: each.script, left: each, upload: '' })),
    ]
  })

  return {
    list, trouble, working,
    /** Keep it: the recording that is made of it; what is still here is sent first. */
    async keep(entry: BrokenOff): Promise<string | undefined> {
      working.value = entry.id
      trouble.value = ''
      try {
        if (entry.left) return await (await SendWhile.rest(entry.left, (told) => (trouble.value = told))).finish()
        return (await got(api.POST('/api/broken-off/{upload_id}', { params: { path: { upload_id: entry.upload } } }))).id
      } catch (error) {
        tellError(error)
        return undefined
      } finally {
        working.value = ''
        await query.refetch()
      }
    },
    async forget(entry: BrokenOff) {
      if (entry.left) await forgetLeft(entry.left).catch(tellError)
      if (entry.upload) await got(api.DELETE('/api/broken-off/{upload_id}', { params: { path: { upload_id: entry.upload } } })).catch(tellError)
      await query.refetch()
    },
  }
}
