<script setup lang="ts">
import { ref } from 'vue'
import { useOutlets } from '@/document/useOutlets'
import { sureToDelete } from '@/shared/ask'
import { useOutbox, type Outside } from './useOutbox'

/** The accounts of the stand-in for outlets that ships, how each behaves, and what it was sent. */
const { outside, moods, addAccount, setMood, removeAccount } = useOutbox()
const { outlets } = useOutlets()
const name = ref('')
const sort = ref('')
async function add() {
  if (await addAccount(name.value.trim(), sort.value)) name.value = ''
}
async function drop(each: Outside) {
  if (await sureToDelete(`Delete the account “${each.name}”?`, 'What it was sent goes too. What is planned for it does not go out.')) await removeAccount(each)
}
</script>

<template>
  <aside aria-label="Accounts">
    <h2>Accounts</h2>
    <p class="quiet">These are made up: a stand-in for outlets that keeps what it is sent, and behaves as you choose.</p>
    <article v-for="each in outside" :key="each.id">
      <b>{{ each.name }}</b> <span class="quiet">{{ each.sort_name }}</span>
      <select :value="each.mood" :aria-label="`How ${each.name} behaves`" @change="setMood(each, ($event.target as HTMLSelectElement).value as Outside['mood'])">
        <option v-for="(label, key) in moods" :key="key" :value="key">{{ label }}</option>
      </select>
      <div class="ways">
        <RouterLink :to="{ name: 'feed', params: { account: each.id } }">Its feed ({{ each.posts }})</RouterLink>
        <el-button size="small" text @click="drop(each)">Delete…</el-button>
      </div>
    </article>
    <form @submit.prevent="add">
      <h3>New account</h3>
      <el-input v-model="name" size="small" placeholder="Name" :maxlength="60" aria-label="Name of the new account" />
      <select v-model="sort" aria-label="Outlet of the new account"><option value="" disabled>For which outlet</option><option v-for="each in outlets" :key="each.key" :value="each.key">{{ each.name }}</option></select>
      <el-button size="small" native-type="submit" :disabled="!name.trim() || !sort">Add</el-button>
    </form>
  </aside>
</template>

<style scoped>
aside { padding: 16px 20px; border-left: 1px solid var(--rule); overflow-y: auto; }
p { font-size: 13px; }
h3 { font-size: 14px; }
article { padding: 10px 0; border-top: 1px solid var(--rule); font-size: 14px; }
select { display: block; width: 100%; margin-top: 4px; padding: 3px 4px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 13px; }
.ways { display: flex; align-items: center; justify-content: space-between; margin-top: 4px; font-size: 13px; }
form { display: flex; flex-direction: column; gap: 6px; padding-top: 12px; border-top: 1px solid var(--rule); }
form .el-button { align-self: flex-start; }
@media (width < 900px) { aside { border-left: 0; } }
</style>
