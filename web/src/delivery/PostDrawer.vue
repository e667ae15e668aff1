<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { computed, onMounted, ref, toRef } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { focusFirst } from '@/shared/focus'
import { tell } from '@/shared/tell'
import { usePost } from './usePost'

/** The text that goes with the clip: begun from its own words, counted against what the outlet takes, copied by one key. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: [] }>()

const { post, own, failed, change, now, text, offered, error, setOwn, other, settleWith } = usePost(toRef(() => props.doc.id), toRef(() => props.doc.edition), toRef(() => props.doc.version))
const outlet = computed(() => props.doc.editions.find((each) => each.id === props.doc.edition)?.name ?? '')
const panel = ref<HTMLElement | null>(null)
const written = ref('')
const { copy } = useClipboard({ legacy: true })

async function copyAll() {
  now()
  await copy(text.value?.text ?? '')
  tell('The text is copied.')
}
const chosen = (tag: string) => post.value.hashtags.some((each) => each.toLowerCase() === tag.toLowerCase())
const flip = (tag: string) => change({ hashtags: chosen(tag) ? post.value.hashtags.filter((each) => each.toLowerCase() !== tag.toLowerCase()) : [...post.value.hashtags, tag] })
const others = computed(() => post.value.hashtags.filter((each) => !offered.value?.hashtags.some((one) => one.toLowerCase() === each.toLowerCase())))
function add() {
  const tags = written.value.split(/[\s,]+/).map((each) => each.replace(/^#+/, '')).filter(Boolean).map((each) => `#${each}`)
  if (tags.length) change({ hashtags: [...new Set([...post.value.hashtags, ...tags])] })
  written.value = ''
}
const over = computed(() => !!text.value && (text.value.letters > text.value.letters_limit || text.value.hashtags > text.value.hashtags_limit))
const empty = computed(() => !post.value.first_line && !post.value.body && !post.value.hashtags.length && !post.value.link)

useCommands(() => [
  ...closing('close-post', () => emit('close'), '[data-post-panel]'),
  { id: 'copy-post', label: 'Copy the text for the post', keys: ['Alt+C'], enabled: () => !!text.value?.text, run: () => void copyAll() },
  { id: 'copy-post-field', label: 'Copy the text for the post', keys: ['Alt+C'], where: '[data-post-panel]', enabled: () => !!text.value?.text, run: () => void copyAll() },
])
onMounted(() => focusFirst(panel.value))
</script>

<template>
  <section ref="panel" class="drawer" aria-label="Text for the post" data-post-panel>
    <header>
      <h2 tabindex="-1">Text for the post</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="error" class="alarm" role="alert">{{ error.message }}</p>
    <div v-if="other" class="other" role="alert" data-test="other-text">
      <p><b>Somebody else has written here in the meantime.</b> Theirs reads:</p>
      <p class="whole">{{ other.text }}</p>
      <div class="head"><el-button size="small" type="primary" @click="settleWith(false)">Take theirs</el-button><el-button size="small" @click="settleWith(true)">Keep mine</el-button></div>
    </div>
    <el-button v-if="empty && offered" type="primary" size="small" class="begin" data-test="begin-post" @click="change(offered.begun)">Begin with the words of the clip</el-button>
    <label>First line
      <el-input :model-value="post.first_line" :maxlength="300" aria-label="First line" @update:model-value="change({ first_line: $event })" @blur="now" />
    </label>
    <ul v-if="offered?.first_lines.length" class="lines" aria-label="Offered first lines">
      <li v-for="each in offered.first_lines.slice(0, 4)" :key="each"><button class="link" :disabled="post.first_line === each" @click="change({ first_line: each })">{{ each }}</button></li>
    </ul>
    <label>Text
      <el-input type="textarea" :model-value="post.body" :autosize="{ minRows: 4, maxRows: 12 }" :maxlength="10000" aria-label="Text" @update:model-value="change({ body: $event })" @blur="now" />
    </label>
    <el-button v-if="offered?.body && post.body !== offered.body" size="small" @click="change({ body: post.body ? `${post.body}\n\n${offered.body}` : offered.body })">Add what is said first</el-button>
    <fieldset>
      <legend>Hashtags</legend>
      <div class="tags">
        <button v-for="each in [...(offered?.hashtags ?? []), ...others]" :key="each" class="tag" :aria-pressed="chosen(each)" @click="flip(each)">{{ each }}</button>
      </div>
      <form @submit.prevent="add"><el-input v-model="written" size="small" placeholder="Another one" aria-label="Another hashtag" @blur="add" /></form>
    </fieldset>
    <label>Link
      <el-input :model-value="post.link" placeholder="https://" aria-label="Link" @update:model-value="change({ link: $event })" @blur="now" />
    </label>
    <p v-if="failed" class="alarm" role="alert">{{ failed }}</p>
    <el-checkbox v-if="doc.editions.length > 1" :model-value="own" @change="setOwn($event as boolean)">For {{ outlet }} alone</el-checkbox>
    <template v-if="text">
      <div class="head">
        <h3>As it is copied</h3>
        <span class="time" :class="{ alarm: over }" data-test="counted">{{ text.letters }} of {{ text.letters_limit }} letters, {{ text.hashtags }} of {{ text.hashtags_limit }} hashtags</span>
      </div>
      <p v-if="over" class="alarm" role="status">{{ outlet }} does not take as much: shorten it, or leave out some hashtags.</p>
      <p class="whole" data-test="post-text">{{ text.text || 'Nothing is written yet.' }}</p>
      <p v-if="text.credits.length" class="quiet">{{ text.credits.length === 1 ? 'One line has to be named' : `${text.credits.length} lines have to be named` }}; it is put in by itself.</p>
      <div class="head">
        <el-button type="primary" :disabled="!text.text" title="Copy the text (Alt+C)" @click="copyAll">Copy</el-button>
        <a :href="`/api/documents/${doc.id}/editions/${doc.edition}/post.txt`" download>Download TXT</a>
      </div>
    </template>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header, .head { display: flex; flex-wrap: wrap; gap: 4px 8px; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
h3 { margin: 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
label:not(.el-checkbox) { display: flex; flex-direction: column; gap: 3px; font-size: 13px; }
.other { display: flex; flex-direction: column; gap: 6px; padding: 8px; border: 1px solid var(--alarm); }
.begin { align-self: flex-start; }
.lines { margin: -4px 0 2px; padding: 0; list-style: none; font-size: 13px; }
.lines .link { text-align: left; }
.lines .link:disabled { color: var(--ink-2); text-decoration: none; cursor: default; }
fieldset { display: flex; flex-direction: column; gap: 6px; margin: 0; padding: 0; border: 0; font-size: 13px; }
.tags { display: flex; flex-wrap: wrap; gap: 6px; }
.tag { padding: 2px 8px; border: 1px solid var(--rule); border-radius: 12px; background: none; font: inherit; cursor: pointer; }
.tag[aria-pressed='true'] { border-color: var(--pencil); background: var(--pencil); color: var(--paper); }
.whole { padding: 10px; background: var(--paper-2); font: 14px/1.5 var(--serif); overflow-wrap: anywhere; white-space: pre-wrap; }
.time { font-size: 12px; }
</style>
