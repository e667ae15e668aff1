<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { nextTick, ref } from 'vue'
import { useCommands } from '@/commands/registry'
import { moment } from '@/shared/format'
import MailDialog from './MailDialog.vue'
import { useNotices } from './useNotices'

/** A bell with what happened; what is seen counts as read once the list is closed. */
const { notices, unread, read } = useNotices()
const open = ref(false)
const mailing = ref(false)
const panel = ref<HTMLElement | null>(null)
const button = ref<HTMLElement | null>(null)

async function show() {
  open.value = true
  await nextTick()
  panel.value?.querySelector<HTMLElement>('h2')?.focus()
}
function hide(back = true) {
  if (!open.value) return
  open.value = false
  void read()
  if (back) button.value?.focus()
}
onClickOutside(panel, () => hide(false), { ignore: [button] })
useCommands(() => [
  { id: 'notices', label: 'What happened', keys: ['Shift+U'], run: () => (open.value ? hide() : void show()) },
  ...(open.value ? [{ id: 'close-notices', label: 'Close', keys: ['Escape'], where: '[data-notices]', run: () => hide() }] : []),
])
</script>

<template>
  <span class="bell">
    <button ref="button" :aria-expanded="open" :aria-label="unread ? `What happened: ${unread} new` : 'What happened'" :title="unread ? `${unread} new (Shift+U)` : 'What happened (Shift+U)'" data-test="bell" @click="open ? hide() : show()">
      <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true"><path d="M8 1.8a4.2 4.2 0 0 0-4.2 4.2c0 3.6-1.5 4.9-1.5 5.7h11.4c0-.8-1.5-2.1-1.5-5.7A4.2 4.2 0 0 0 8 1.8Z" fill="none" stroke="currentColor" stroke-width="1.4" stroke-linejoin="round" /><path d="M6.4 13.7a1.7 1.7 0 0 0 3.2 0" fill="none" stroke="currentColor" stroke-width="1.4" /></svg>
      <b v-if="unread" aria-hidden="true">{{ unread > 99 ? '99+' : unread }}</b>
    </button>
    <section v-if="open" ref="panel" aria-label="What happened" data-notices>
      <header><h2 tabindex="-1">What happened</h2><el-button size="small" text @click="mailing = true">Mail…</el-button></header>
      <p v-if="!notices.length" class="quiet">Nothing yet. When something is ready, fails, goes out, or is commented or approved, it stands here.</p>
      <ul>
        <li v-for="each in notices" :key="each.id" :data-kind="each.kind" :class="{ unread: each.unread }">
          <RouterLink :to="each.path" @click="hide(false)">{{ each.text }}</RouterLink>
          <span class="quiet">{{ moment(each.created) }}</span>
        </li>
      </ul>
    </section>
    <MailDialog v-if="mailing" @close="mailing = false" />
  </span>
</template>

<style scoped>
.bell { position: relative; flex: none; }
button:not(.el-button) { position: relative; display: grid; width: 32px; height: 32px; padding: 0; border: 0; border-radius: 4px; background: none; color: var(--ink-2); cursor: pointer; place-items: center; }
button:not(.el-button):hover { background: var(--paper-2); color: var(--ink); }
button b { position: absolute; top: 0; right: -2px; min-width: 16px; padding: 0 4px; border-radius: 8px; background: var(--alarm); color: #fff; font: 600 11px/16px var(--sans); }
section { position: absolute; top: 40px; right: 0; z-index: 50; width: min(380px, 92vw); max-height: 70vh; padding: 12px 16px; border: 1px solid var(--rule); border-radius: 6px; background: var(--paper); overflow-y: auto; }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p, ul { margin: 8px 0 0; font-size: 14px; }
ul { padding: 0; list-style: none; }
li { display: flex; flex-direction: column; padding: 8px 0 8px 10px; border-top: 1px solid var(--rule); border-left: 3px solid transparent; }
li.unread { border-left-color: var(--pencil); }
li[data-kind='failed'].unread, li[data-kind='asks'].unread { border-left-color: var(--alarm); }
li a { color: var(--ink); text-decoration: none; overflow-wrap: anywhere; }
li a:hover { text-decoration: underline; }
li .quiet { font-size: 12px; }
@media (width < 600px) { section { position: fixed; top: 48px; right: 4vw; } }
</style>
