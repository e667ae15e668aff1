import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

export type Posting = Schemas['PostingOut']
export type Account = Schemas['AccountOut']
export type Outside = Schemas['OutsideAccountOut']
const SOON = 1_500, LATER = 15_000 // ms, while something is on its way and otherwise
const OWN_ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone

/** What is planned, what went out, and where to. */
export function useOutbox() {
  const client = useQueryClient()
  const info = useQuery({ queryKey: ['outbox'], queryFn: () => got(api.GET('/api/outbox')) })
  const postings = useQuery({
    queryKey: ['postings'],
    queryFn: () => got(api.GET('/api/outbox/postings')),
    refetchInterval: (state) => (state.state.data?.some((each) => each.state === 'sending' || (each.state === 'planned' && new Date(each.due).getTime() < Date.now() + LATER)) ? SOON : LATER),
  })
  const outside = useQuery({ queryKey: ['outside'], queryFn: () => got(api.GET('/api/outside/accounts')) })
  const again = () => Promise.all(['outbox', 'postings', 'outside', 'deliveries'].map((key) => client.invalidateQueries({ queryKey: [key] })))

  async function then<T>(work: Promise<T>): Promise<T | null> {
    const done = await work.catch((error) => { tellError(error); return null })
    await again()
    return done
  }
  const path = (row: Posting) => ({ path: { posting_id: row.id } })
  const change = (row: Posting, change: Omit<Schemas['PostingChange'], 'version' | 'zone' | 'now' | 'newest'> & Partial<Schemas['PostingChange']>) =>
    then(got(api.PATCH('/api/outbox/postings/{posting_id}', { params: path(row), body: { zone: 'UTC', now: false, newest: false, ...change, version: row.version } })))

  return {
    postings: computed(() => postings.data.value ?? []),
    loaded: computed(() => postings.data.value !== undefined),
    accounts: computed(() => info.data.value?.accounts ?? []),
    zones: computed(() => info.data.value?.zones ?? []),
    steps: computed(() => info.data.value?.steps ?? {}),
    states: computed(() => info.data.value?.states ?? {}),
    ownZone: computed(() => (info.data.value?.zones.includes(OWN_ZONE) ? OWN_ZONE : 'UTC')),
    outside: computed(() => outside.data.value?.accounts ?? []),
    moods: computed(() => outside.data.value?.moods ?? {}),
    plan: (wanted: Schemas['Planning']) => got(api.POST('/api/outbox/postings', { body: wanted })).finally(again),
    times: (asked: Schemas['TimeAsked']) => got(api.POST('/api/outbox/times', { body: asked })),
    change,
    takeBack: (row: Posting) => then(got(api.DELETE('/api/outbox/postings/{posting_id}', { params: path(row) }))),
    addAccount: (name: string, sort: string) => then(got(api.POST('/api/outside/accounts', { body: { name, sort } }))),
    setMood: (account: Outside, mood: Outside['mood']) => then(got(api.PUT('/api/outside/accounts/{account_id}/mood', { params: { path: { account_id: account.id } }, body: { mood } }))),
    removeAccount: (account: Outside) => then(got(api.DELETE('/api/outside/accounts/{account_id}', { params: { path: { account_id: account.id } } }))),
  }
}

/** What an account was sent, as it looks there. */
export function useFeed(account: Ref<string>) {
  const query = useQuery({
    queryKey: ['feed', account],
    queryFn: () => got(api.GET('/api/outside/accounts/{account_id}/feed', { params: { path: { account_id: account.value } } })),
    refetchInterval: LATER,
  })
  return { feed: computed(() => query.data.value ?? null), error: query.error }
}
