<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useCommands } from '@/commands/registry'
import { sureToDelete } from '@/shared/ask'
import { moment } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import BrokenOffLines from '@/capture/BrokenOffLines.vue'
import { textOf, useScripts } from './useScripts'

/** The scripts to be read, and recording without one. */
const scripts = useScripts()
const router = useRouter()
const choices = useChoices()
const chooser = ref<HTMLInputElement | null>(null)
const over = ref(false)
const list = computed(() => scripts.query.data.value ?? [])
const endings = computed(() => choices.value?.script_files.join(',') ?? '')

async function write(title = '', text = '') {
  const made = await scripts.begin({ title, text, kind: 'flowing' })
  if (made) await router.push({ name: 'script', params: { id: made.id } })
}

async function bringIn(files: FileList | null | undefined) {
  over.value = false
  const file = files?.[0]
  if (!file) return
  const found = await textOf(file)
  if (chooser.value) chooser.value.value = ''
  if (found) await write(found.title, found.text)
}

async function remove(id: string, title: string) {
  if (await sureToDelete(`Delete “${title}”?`, 'The script is removed and this cannot be undone. What was recorded of it stays, under Recordings.')) await scripts.remove(id)
}

useCommands(() => [
  { id: 'new-script', label: 'Write a script', keys: ['N'], run: () => void write() },
  { id: 'script-from-file', label: 'Bring in a script…', run: () => chooser.value?.click() },
  { id: 'record-free', label: 'Record without a script', keys: ['Shift+R'], run: () => void router.push({ name: 'record-free' }) },
])
</script>

<template>
  <div class="record" :class="{ over }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="bringIn($event.dataTransfer?.files)">
    <Teleport defer to="#actions">
      <el-button class="wide" @click="router.push({ name: 'record-free' })">Record without a script</el-button>
      <el-button type="primary" @click="write()">Write a script</el-button>
    </Teleport>
    <input ref="chooser" type="file" :accept="endings" hidden data-test="script-file" @change="bringIn(chooser?.files)">
    <h1 tabindex="-1">Record</h1>
    <p class="quiet">Write what you want to say, read it to the camera from a prompter, keep the best take of each sentence. <button class="link" @click="chooser?.click()">Bring in a script</button> from a text, Markdown or DOCX file, or drop it here; or <RouterLink :to="{ name: 'record-free' }">record without one</RouterLink>.</p>
    <BrokenOffLines looks :of="(each) => !each.name.endsWith('.wav')" @kept="router.push({ name: 'recordings' })" />
    <p v-if="scripts.query.error.value" class="alarm" role="alert">{{ scripts.query.error.value.message }}</p>
    <div v-else-if="scripts.query.data.value && !list.length" class="empty">
      <h2>No scripts yet</h2>
      <p class="quiet">Press <b>Write a script</b>, or record at once without one.</p>
    </div>
    <ul v-if="list.length" aria-label="Scripts">
      <li v-for="each in list" :key="each.id">
        <RouterLink :to="{ name: 'script', params: { id: each.id } }">{{ each.title }}</RouterLink>
        <span class="quiet">{{ each.words }} word{{ each.words === 1 ? '' : 's' }}</span>
        <span class="quiet">{{ each.takes ? `${each.takes} take${each.takes === 1 ? '' : 's'}` : 'not recorded yet' }}</span>
        <span class="quiet time">{{ moment(each.changed) }}</span>
        <el-button text size="small" @click="remove(each.id, each.title)">Delete…</el-button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.record { height: 100%; padding: 24px 32px; overflow-y: auto; }
.over { outline: 3px dashed var(--pencil); outline-offset: -10px; }
h1:focus { outline: none; }
ul { max-width: 1000px; margin: 16px 0 0; padding: 0; border-top: 1px solid var(--rule); list-style: none; }
li { display: grid; grid-template-columns: minmax(0, 1fr) 90px 130px 130px auto; gap: 16px; align-items: center; padding: 12px 0; border-bottom: 1px solid var(--rule); }
li a { overflow: hidden; color: var(--ink); font-weight: 600; text-decoration: none; text-overflow: ellipsis; }
li a:hover { color: var(--pencil); text-decoration: underline; }
.empty { margin-top: 80px; text-align: center; }
@media (width < 600px) {
  .wide { display: none; }
}
@media (width < 900px) {
  .record { padding: 16px; }
  li { grid-template-columns: minmax(0, 1fr) auto auto; }
  li .time, li .quiet:first-of-type { display: none; }
}
</style>
