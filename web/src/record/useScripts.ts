import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { onTop } from '@/shared/onTop'
import { tellError } from '@/shared/tell'

export type Script = Schemas['ScriptOut']
export type Take = Schemas['TakeOut']
export type ReadingOut = Schemas['ReadingOut']

const SOON = 2_000 // ms after which it is asked again while a take is being prepared

/** The scripts of the workspace. */
export function useScripts() {
  const client = useQueryClient()
  const query = useQuery({ queryKey: ['scripts'], queryFn: () => got(api.GET('/api/scripts')) })
  const refresh = () => client.invalidateQueries({ queryKey: ['scripts'] })
  return {
    query,
    async begin(body: Schemas['NewScript']): Promise<Script | undefined> {
      const made = await got(api.POST('/api/scripts', { body })).catch(tellError)
      if (made) await refresh()
      return made ?? undefined
    },
    async remove(id: string) {
      await got(api.DELETE('/api/scripts/{script_id}', { params: { path: { script_id: id } } })).catch(tellError)
      await refresh()
    },
  }
}

/** One script, its takes, and what was said in them beside it. */
export function useScript(id: () => string) {
  const client = useQueryClient()
  const params = () => ({ path: { script_id: id() } })
  const key = computed(() => ['script', id()])
  const query = useQuery({
    queryKey: key,
    queryFn: () => got(api.GET('/api/scripts/{script_id}', { params: params() })),
    enabled: () => !!id(),
    refetchInterval: (state) => (state.state.data?.takes.some((each) => !each.ready || !each.playable) ? SOON : false),
  })
  const script = computed(() => query.data.value ?? null)
  /** What takes are ready, and how they are starred: when that changes, they are compared anew. */
  const compared = computed(() => script.value?.takes.filter((each) => each.ready).map((each) => `${each.id}${each.starred}`).join() ?? '')
  const beside = useQuery({
    queryKey: computed(() => ['script', id(), 'beside', compared.value, script.value?.text, script.value?.kind]),
    queryFn: () => got(api.GET('/api/scripts/{script_id}/beside', { params: params() })),
    enabled: () => !!compared.value,
  })
  const set = (made: Script | undefined) => { if (made) client.setQueryData(key.value, made) }

  return {
    query,
    script,
    beside: computed(() => beside.data.value ?? null),
    refresh: () => client.invalidateQueries({ queryKey: ['script', id()] }),
    async change(what: Omit<Schemas['ScriptChange'], 'version'>) {
      const row = script.value
      if (!row) return
      const reread = async () => (await query.refetch()).data
      set(await onTop(row, reread, (version) => got(api.PATCH('/api/scripts/{script_id}', { params: params(), body: { version, ...what } }))).catch(tellError) ?? undefined)
      await client.invalidateQueries({ queryKey: ['scripts'] })
    },
    async readThrough(words: number, seconds: number) {
      set(await got(api.POST('/api/scripts/{script_id}/pace', { params: params(), body: { words, seconds } })).catch(tellError) ?? undefined)
    },
    async changeTake(take: Take, body: Schemas['TakeChange']) {
      await got(api.PATCH('/api/scripts/takes/{recording_id}', { params: { path: { recording_id: take.id } }, body })).catch(tellError)
      await client.invalidateQueries({ queryKey: key.value, exact: true })
    },
    async removeTake(take: Take) {
      await got(api.DELETE('/api/recordings/{recording_id}', { params: { path: { recording_id: take.id } } })).catch(tellError)
      await client.invalidateQueries({ queryKey: ['script', id()] })
    },
    clipOf: (chosen: Schemas['Chosen'][]) => got(api.POST('/api/scripts/{script_id}/clip', { params: params(), body: { chosen } })).catch(tellError),
  }
}

/** The text of a file that a script is in. */
export async function textOf(file: File): Promise<Schemas['TextOut'] | undefined> {
  const body = new FormData()
  body.append('file', file)
  return (await got(api.POST('/api/scripts/file', { body: body as never, bodySerializer: (given) => given as never })).catch(tellError)) ?? undefined
}
