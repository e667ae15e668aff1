<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import CommandButton from '@/commands/CommandButton.vue'
import CommandFinder from '@/commands/CommandFinder.vue'
import ExportNotice from '@/recordings/ExportNotice.vue'
import PasswordDialog from '@/account/PasswordDialog.vue'
import Bell from '@/notices/Bell.vue'
import { useUnsent } from '@/shared/useUnsent'
import { useSession } from '@/account/session'

const session = useSession()
const router = useRouter()
const { saving } = useUnsent()
const saved = ref(false) // something was, since the page was opened
watch(saving, (is) => { if (!is) saved.value = true })
const changing = ref(false)

const route = useRoute()
const open = computed(() => !!route.meta.open) // for others: nothing of one's own is on it
const PLACES = { recordings: 'Recordings', record: 'Record', drafts: 'From a text', shelf: 'Shelf', board: 'Deliveries' } // here, too, where there is no room for them in the head

function choose(what: string) {
  if (what === 'leave') void leave()
  else if (what === 'password') changing.value = true
  else void router.push({ name: what })
}

async function leave() {
  await session.signOut()
  await router.push({ name: 'sign-in' })
}
</script>

<template>
  <div class="app">
    <header v-if="session.user && !open">
      <RouterLink :to="{ name: 'recordings' }" class="mark" aria-label="Hovvet, to your recordings">
        <img src="/mark.svg" alt="" width="24" height="24" /> <span>Hovvet</span>
      </RouterLink>
      <nav aria-label="Places">
        <RouterLink :to="{ name: 'recordings' }">Recordings</RouterLink>
        <RouterLink :to="{ name: 'record' }">Record</RouterLink>
        <RouterLink :to="{ name: 'drafts' }">From a text</RouterLink>
        <RouterLink :to="{ name: 'shelf' }">Shelf</RouterLink>
        <RouterLink :to="{ name: 'board' }">Deliveries</RouterLink>
      </nav>
      <span id="crumbs"></span>
      <span id="saved" class="quiet" role="status">{{ saving ? 'Saving…' : saved ? 'All saved' : '' }}</span>
      <span class="grow" />
      <CommandButton id="finder" class="door" aria-label="Find a command">
        <svg viewBox="0 0 16 16" width="14" height="14" aria-hidden="true"><circle cx="7" cy="7" r="4.5" fill="none" stroke="currentColor" stroke-width="1.6" /><path d="M10.5 10.5 14 14" stroke="currentColor" stroke-width="1.6" /></svg>
        <span>Find a command</span><kbd>Ctrl+K</kbd>
      </CommandButton>
      <span id="actions"></span>
      <Bell />
      <el-dropdown append-to="#menus" trigger="click" @command="choose">
        <el-button text class="who">{{ session.user }}</el-button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item disabled>{{ session.workspace }}</el-dropdown-item>
            <el-dropdown-item v-for="(name, place) in PLACES" :key="place" :command="place">{{ name }}</el-dropdown-item>
            <el-dropdown-item divided command="password">Change password…</el-dropdown-item>
            <el-dropdown-item command="leave">Sign out</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
    </header>
    <main tabindex="-1">
      <RouterView />
      <CommandFinder />
      <PasswordDialog :open="changing" @close="changing = false" />
    </main>
    <ExportNotice v-if="session.user && !open" />
  </div>
</template>

<style scoped>
.app { display: grid; grid-template-rows: auto minmax(0, 1fr); grid-template-columns: minmax(0, 1fr); height: 100%; }
header { display: flex; gap: 14px; align-items: center; min-height: 52px; padding: 0 20px; border-bottom: 1px solid var(--rule); }
.mark { display: flex; gap: 8px; align-items: center; color: var(--ink); font-weight: 600; text-decoration: none; }
nav { display: flex; gap: 4px; }
nav a { padding: 4px 8px; border-radius: 4px; color: var(--ink-2); font-size: 14px; text-decoration: none; }
nav a:hover, nav a.router-link-exact-active { background: var(--paper-2); color: var(--ink); }
.grow { flex: 1; }
.door { flex: none; color: var(--ink-2); }
.door span { margin: 0 6px; }
.door kbd { font: 11px var(--mono); }
.who { max-width: 120px; overflow: hidden; text-overflow: ellipsis; }
nav, .mark { flex: none; }
#crumbs { display: flex; flex: 0 1 auto; gap: 12px; align-items: baseline; min-width: 0; overflow: hidden; }
#saved { font-size: 13px; white-space: nowrap; }
#actions { display: flex; flex: none; gap: 8px; align-items: center; }
main { position: relative; min-height: 0; grid-row: 2; }
@media (width < 1500px) {
  .door span, .door kbd { display: none; }
  .door { padding: 8px; }
}
@media (width < 1400px) {
  header:has(#crumbs > *) nav a:nth-child(-n + 3) { display: none; } /* the mark and the menu lead there too */
}
@media (width < 700px) {
  nav { display: none !important; } /* the menu under one's name leads there */
}
@media (width < 900px) {
  header { gap: 8px; min-height: 44px; padding: 0 10px; }
  .mark span, nav a:first-child { display: none; }
  .who { max-width: 70px; }
}
@media (width < 480px) {
  header { gap: 3px; padding: 0 6px; }
  .who { max-width: 52px; padding: 6px 2px !important; }
}
</style>
