<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { sureToDelete } from '@/shared/ask'
import { tell } from '@/shared/tell'
import CommentCard from './CommentCard.vue'
import type { Comment, Comments, Link } from './useComments'

/** What others say of the clip, walked and answered beside its words; and the links under which they see it. */
const props = defineProps<{ doc: Doc; comments: Comments }>()
const emit = defineEmits<{ close: []; go: [seconds: number] }>()

const { open, done, links, share, change, remove, publish, answer, resolve } = props.comments
const panel = ref<HTMLElement | null>(null)
const chosen = ref<string | null>(null)
const sharing = ref(false)
const editions = ref(props.doc.editions.map((each) => each.id))
const password = ref('')
const until = ref<string | null>(null)
const download = ref(false)
const { copy } = useClipboard({ legacy: true })
const whole = (link: Link) => window.location.origin + link.address
const now = computed(() => open.value.find((each) => each.id === chosen.value) ?? null)

async function make() {
  const link = await share({ editions: editions.value, password: password.value, until: until.value, download: download.value })
  if (!link) return
  sharing.value = false
  password.value = ''
  await copyOf(link)
}
async function copyOf(link: Link) {
  await copy(whole(link))
  tell('The link is copied. Whoever has it can watch and comment.')
}
async function drop(link: Link) {
  if (await sureToDelete('Delete this link?', 'What was said under it goes too. To keep that, revoke the link instead.')) await remove(link)
}
function choose(comment: Comment) {
  chosen.value = chosen.value === comment.id ? null : comment.id
  if (chosen.value && comment.start != null) emit('go', comment.start + 0.01)
}
function walk(by: number) {
  const at = now.value ? open.value.indexOf(now.value) + by : 0
  const next = open.value[Math.min(Math.max(at, 0), open.value.length - 1)]
  if (!next || next.id === chosen.value) return
  choose(next)
  void nextTick(() => panel.value?.querySelector<HTMLElement>('.comment.chosen .said')?.focus())
}
const outdated = (link: Link) => link.items.some((each) => each.newer)

const where = '[data-review-panel]'
useCommands(() => [
  { id: 'close-review', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'review-next', label: 'The next comment', keys: ['Down'], where, run: () => walk(1) },
  { id: 'review-before', label: 'The comment before', keys: ['Up'], where, run: () => walk(-1) },
  { id: 'review-done', label: 'Done with this comment', keys: ['Shift+Enter'], where, enabled: () => !!now.value, run: () => void resolve(now.value!, true) },
])
onMounted(() => {
  panel.value?.querySelector<HTMLElement>('h2')?.focus()
  void props.comments.refresh() // a film may have been finished since
})
</script>

<template>
  <section ref="panel" class="drawer" aria-label="Review" data-review-panel>
    <header>
      <h2 tabindex="-1">Review</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="!links.length && !sharing" class="quiet">Nobody has been asked yet. A link lets somebody without an account watch the exported film, read along, comment on words, and approve it.</p>
    <el-button v-if="!sharing" type="primary" size="small" class="new" @click="sharing = true">Share for review…</el-button>
    <form v-else class="share" @submit.prevent="make">
      <el-checkbox-group v-model="editions" aria-label="Editions to share">
        <el-checkbox v-for="each in doc.editions" :key="each.id" :value="each.id">{{ each.name }}</el-checkbox>
      </el-checkbox-group>
      <label>Password (may stay empty) <el-input v-model="password" size="small" :maxlength="200" aria-label="Password of the link" /></label>
      <label>Holds until (may stay empty) <input v-model="until" type="date" aria-label="Holds until"></label>
      <el-checkbox v-model="download">The film may be saved</el-checkbox>
      <span><el-button type="primary" size="small" native-type="submit" :disabled="!editions.length">Make the link</el-button><el-button size="small" @click="sharing = false">Cancel</el-button></span>
    </form>
    <h3>Comments<span v-if="open.length" class="quiet"> ({{ open.length }})</span></h3>
    <p v-if="!open.length" class="quiet">{{ done.length ? 'All of them are done.' : 'None yet.' }}</p>
    <ul><CommentCard v-for="each in open" :key="each.id" :comment="each" :chosen="each.id === chosen" can-answer @choose="choose(each)" @answer="answer(each, $event)" @resolve="resolve(each, $event)" /></ul>
    <details v-if="done.length"><summary>Done ({{ done.length }})</summary>
      <ul><CommentCard v-for="each in done" :key="each.id" :comment="each" :chosen="each.id === chosen" can-answer @choose="choose(each)" @answer="answer(each, $event)" @resolve="resolve(each, $event)" /></ul>
    </details>
    <template v-if="links.length">
      <h3>Links</h3>
      <article v-for="link in links" :key="link.id" data-test="review-link">
        <p v-for="each in link.items" :key="each.edition">
          {{ each.name }}, version {{ each.version }}:
          <b v-if="each.verdict" :class="each.verdict.says === 'approved' ? 'approved' : 'alarm'">{{ each.verdict.says === 'approved' ? 'approved' : 'changes wanted' }} by {{ each.verdict.name }}</b>
          <span v-else class="quiet">to be reviewed</span>
        </p>
        <p class="quiet">{{ link.revoked ? 'Revoked' : link.holds ? (link.until ? `Holds until ${link.until}` : 'Holds') : `Ended on ${link.until}` }}{{ link.password ? ', with a password' : '' }}{{ link.download ? ', may be saved' : '' }}</p>
        <div class="ways">
          <el-button v-if="outdated(link)" size="small" type="primary" @click="publish(link)">Show the new version</el-button>
          <el-button v-if="link.holds" size="small" @click="copyOf(link)">Copy the link</el-button>
          <a v-if="link.holds" :href="link.address" target="_blank">Open</a>
          <el-button size="small" text @click="change(link, { revoked: !link.revoked })">{{ link.revoked ? 'Let it hold again' : 'Revoke' }}</el-button>
          <el-button size="small" text @click="drop(link)">Delete…</el-button>
        </div>
      </article>
    </template>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
.drawer > * { flex: none; }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
h3 { margin: 4px 0 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
ul { margin: 0; padding: 0; list-style: none; }
.new { align-self: flex-start; }
.share { display: flex; flex-direction: column; gap: 8px; padding: 10px; background: var(--paper-2); font-size: 13px; }
.share label:not(.el-checkbox) { display: flex; flex-direction: column; gap: 2px; }
article { display: flex; flex-direction: column; gap: 4px; padding: 8px 0; border-top: 1px solid var(--rule); }
.ways { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; font-size: 13px; }
.ways .el-button { margin: 0; }
.approved { color: var(--moss); }
summary { font-size: 13px; cursor: pointer; }
</style>
