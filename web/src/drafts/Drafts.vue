<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useCommands } from '@/commands/registry'
import { sureToDelete } from '@/shared/ask'
import { moment } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import LinkDialog from '@/recordings/LinkDialog.vue'
import DraftSettings from './DraftSettings.vue'
import { draftTextAt, draftTextOf, useDrafts, type Settings } from './useDrafts'

/** A text is brought, and what the clip is to be like; and the texts that were brought before. */
const drafts = useDrafts()
const router = useRouter()
const choices = useChoices()
const text = useLocalStorage('hovvet-text', '') // until it has arrived
const wanted = ref<Partial<Settings>>({}) // otherwise than clips usually are
const settings = computed<Settings | null>(() => (choices.value ? { ...choices.value.drafts, house: '', ...wanted.value } : null))
const chooser = ref<HTMLInputElement | null>(null)
const over = ref(false)
const linking = ref(false)
const busy = ref(false)
const list = computed(() => drafts.query.data.value ?? [])
const words = computed(() => text.value.split(/\s+/).filter(Boolean).length)

function taken(found: { text: string } | undefined) {
  if (found) text.value = text.value.trim() ? `${text.value.trimEnd()}\n\n${found.text}` : found.text
}
async function bringIn(files: FileList | null | undefined) {
  over.value = false
  const file = files?.[0]
  if (!file) return
  taken(await draftTextOf(file))
  if (chooser.value) chooser.value.value = ''
}
async function fetchFrom(link: string) {
  linking.value = false
  taken(await draftTextAt(link))
}
async function begin() {
  if (!text.value.trim() || !settings.value || busy.value) return
  busy.value = true
  const { outlet, seconds, narrator, pace, house } = settings.value
  const made = await drafts.begin({ text: text.value, title: '', outlet, seconds, narrator, pace, house })
  busy.value = false
  if (!made) return
  text.value = ''
  await router.push({ name: 'draft', params: { id: made.id } })
}
async function remove(id: string, title: string) {
  if (await sureToDelete(`Delete “${title}”?`, 'The text and its sentences are removed and this cannot be undone. A clip that was made of it stays.')) await drafts.remove(id)
}
useCommands(() => [
  { id: 'begin-draft', label: 'Choose the sentences', keys: ['Ctrl+Enter'], where: '.bring', enabled: () => !!text.value.trim(), run: () => void begin() },
  { id: 'text-from-file', label: 'Bring in a text…', run: () => chooser.value?.click() },
  { id: 'text-from-link', label: 'Bring in a text from a link…', run: () => { linking.value = true } },
])
</script>

<template>
  <div class="drafts" :class="{ over }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="bringIn($event.dataTransfer?.files)">
    <input ref="chooser" type="file" :accept="choices?.script_files.join(',')" hidden data-test="text-file" @change="bringIn(chooser?.files)">
    <h1 tabindex="-1">From a text</h1>
    <p class="quiet">Paste an article or a script. Hovvet chooses the sentences that fit the length, has them read, and lays pictures, captions and music: a clip like any other, of which you can change everything.</p>
    <div class="bring">
      <section class="paper">
        <textarea v-model="text" aria-label="Text" placeholder="Paste your text here, drop a file, or bring one in below." data-test="text"></textarea>
        <p class="below quiet">
          <button class="link" @click="chooser?.click()">Bring in a file</button> (TXT, Markdown, DOCX, HTML) or <button class="link" @click="linking = true">a link</button>
          <span v-if="words" class="time count">{{ words }} word{{ words === 1 ? '' : 's' }}</span>
        </p>
      </section>
      <aside aria-label="The clip">
        <DraftSettings v-if="settings" :settings="settings" @change="wanted = { ...wanted, ...$event }" />
        <el-button type="primary" :disabled="!words" :loading="busy" @click="begin">Choose the sentences</el-button>
        <p class="quiet">You see them all next, and decide which stay.</p>
      </aside>
    </div>
    <p v-if="drafts.query.error.value" class="alarm" role="alert">{{ drafts.query.error.value.message }}</p>
    <template v-if="list.length">
      <h2>Texts before</h2>
      <ul aria-label="Texts">
        <li v-for="each in list" :key="each.id">
          <RouterLink :to="{ name: 'draft', params: { id: each.id } }">{{ each.title }}</RouterLink>
          <span class="quiet">{{ each.sentences }} sentence{{ each.sentences === 1 ? '' : 's' }}</span>
          <span><RouterLink v-if="each.clip" class="clip" :to="{ name: 'sheet', params: { id: each.clip } }">Its clip</RouterLink><i v-else class="quiet">no clip yet</i></span>
          <span class="quiet time">{{ moment(each.changed) }}</span>
          <el-button text size="small" :aria-label="`Delete ${each.title}`" @click="remove(each.id, each.title)">Delete…</el-button>
        </li>
      </ul>
    </template>
    <LinkDialog :open="linking" @close="linking = false" @fetch="fetchFrom" />
  </div>
</template>

<style scoped>
.drafts { height: 100%; padding: 24px 32px; overflow-y: auto; }
.over { outline: 3px dashed var(--pencil); outline-offset: -10px; }
h1:focus { outline: none; }
.drafts > p { max-width: 860px; }
.bring { display: grid; grid-template-columns: minmax(0, 1fr) 300px; gap: 24px; max-width: 1140px; margin-top: 16px; }
textarea { display: block; width: 100%; height: 44vh; min-height: 220px; padding: 14px 18px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: 17px/1.6 var(--serif); resize: vertical; }
.below { display: flex; gap: 4px; margin: 8px 0 0; font-size: 14px; }
.count { margin-left: auto; }
aside { display: flex; flex-direction: column; gap: 12px; font-size: 14px; }
aside p { margin: 0; }
h2 { margin: 32px 0 8px; font-size: 16px; }
ul { max-width: 1140px; margin: 0; padding: 0; border-top: 1px solid var(--rule); list-style: none; }
li { display: grid; grid-template-columns: minmax(0, 1fr) 110px 100px 130px auto; gap: 16px; align-items: center; padding: 10px 0; border-bottom: 1px solid var(--rule); }
li a:first-child { overflow: hidden; color: var(--ink); font-weight: 600; text-decoration: none; text-overflow: ellipsis; white-space: nowrap; }
li a:hover { color: var(--pencil); text-decoration: underline; }
i { font-style: normal; }
@media (width < 900px) {
  .drafts { padding: 16px; }
  .bring { grid-template-columns: minmax(0, 1fr); }
  textarea { height: 30vh; }
  li { grid-template-columns: minmax(0, 1fr) auto auto; }
  li .time, li .quiet:first-of-type { display: none; }
}
</style>
