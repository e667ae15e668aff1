<script setup lang="ts">
import { useRouter } from 'vue-router'
import { useSession } from './stores/session'

const session = useSession()
const router = useRouter()

async function leave() {
  await session.signOut()
  await router.push({ name: 'sign-in' })
}
</script>

<template>
  <div class="app">
    <header v-if="session.user">
      <RouterLink :to="{ name: 'recordings' }" class="mark">
        <img src="/mark.svg" alt="" width="24" height="24" /> Hovvet
      </RouterLink>
      <span id="crumbs"></span>
      <span class="grow" />
      <span id="actions"></span>
      <span class="quiet workspace">{{ session.workspace }}</span>
      <el-button text @click="leave">Sign out</el-button>
    </header>
    <main><RouterView /></main>
  </div>
</template>

<style scoped>
.app { display: grid; grid-template-rows: auto minmax(0, 1fr); height: 100%; }
header { display: flex; align-items: center; gap: 16px; height: 52px; padding: 0 20px; border-bottom: 1px solid var(--rule); }
.mark { display: flex; gap: 8px; align-items: center; color: var(--ink); font-weight: 600; text-decoration: none; }
.grow { flex: 1; }
.workspace { font-size: 13px; white-space: nowrap; }
#crumbs { display: flex; gap: 12px; align-items: baseline; min-width: 0; }
#actions { display: flex; gap: 8px; align-items: center; }
main { min-height: 0; grid-row: 2; }
</style>
