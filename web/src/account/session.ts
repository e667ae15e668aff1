import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, got, setToken, type Schemas } from '@/api/client'

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const user = ref<string | null>(null)
  const workspace = ref<string | null>(null)
  let loaded = false

  function take(session: Schemas['Session']) {
    user.value = session.user
    workspace.value = session.workspace
    setToken(session.csrf)
    loaded = true
  }

  async function load() {
    if (!loaded) take(await got(api.GET('/api/session')))
  }

  async function signIn(username: string, password: string) {
    take(await got(api.POST('/api/session', { body: { username, password } })))
  }

  async function signOut() {
    await got(api.DELETE('/api/session'))
    user.value = null
    loaded = false
  }

  return { user, workspace, load, take, signIn, signOut }
})
