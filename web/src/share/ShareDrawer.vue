<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { computed, onMounted, ref, toRef } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { sureToDelete } from '@/shared/ask'
import { tell } from '@/shared/tell'
import { useShare, type SharePage } from './useShare'

/** A page for each edition: for who has the link, or for everybody, embedded elsewhere. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: [] }>()
const { pages, make, change, newest, remove } = useShare(toRef(() => props.doc.id))
const heading = ref<HTMLElement | null>(null)
const { copy } = useClipboard({ legacy: true })
const nameOf = (page: SharePage) => props.doc.editions.find((each) => each.id === page.edition)?.name ?? 'A deleted edition'
const missing = computed(() => props.doc.editions.filter((each) => !pages.value.some((page) => page.edition === each.id)))

async function copyOf(text: string, told: string) {
  await copy(text)
  tell(told)
}
async function drop(page: SharePage) {
  if (await sureToDelete('Delete this page?', 'Its link leads nowhere then, also where it is embedded.')) await remove(page)
}
function rename(page: SharePage, event: Event) {
  const input = event.target as HTMLInputElement
  const title = input.value.trim()
  if (title && title !== page.title) void change(page, { title })
  else input.value = page.title
}
useCommands(() => closing('close-share', () => emit('close'), '[data-share-panel]'))
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Share page" data-share-panel>
    <header>
      <h2 ref="heading" tabindex="-1">Share page</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="!pages.length" class="quiet">A page of its own for this film: with its title, its captions, and what is said in it to read. At first only who has the link finds it.</p>
    <article v-for="page in pages" :key="page.id" data-test="share-page">
      <h3>{{ nameOf(page) }}</h3>
      <p v-if="page.gone" class="alarm">Its film has been deleted, so the page shows nothing. Export it again.</p>
      <label>Title <input :value="page.title" maxlength="200" :aria-label="`Title of the page for ${nameOf(page)}`" @change="rename(page, $event)"></label>
      <el-radio-group :model-value="page.public" size="small" :aria-label="`Who finds the page for ${nameOf(page)}`" @change="change(page, { public: $event as boolean })">
        <el-radio-button :value="false">Who has the link</el-radio-button><el-radio-button :value="true">Everybody</el-radio-button>
      </el-radio-group>
      <p class="quiet">{{ page.public ? 'Search engines may list it, and other sites may embed it.' : 'Search engines are asked not to list it, and no site can embed it.' }}</p>
      <el-checkbox :model-value="page.words" @change="change(page, { words: !!$event })">What is said can be read there</el-checkbox>
      <div class="ways">
        <el-button v-if="page.newer" size="small" type="primary" @click="newest(page)">Show the newest film</el-button>
        <el-button size="small" @click="copyOf(page.address, 'The link is copied.')">Copy the link</el-button>
        <el-button v-if="page.code" size="small" @click="copyOf(page.code, 'The code is copied. It goes into the HTML of a page.')">Copy the code to embed it</el-button>
        <a v-if="!page.gone" :href="page.address" target="_blank">Open</a>
        <el-button size="small" text @click="drop(page)">Delete…</el-button>
      </div>
    </article>
    <div v-if="missing.length" class="ways">
      <el-button v-for="each in missing" :key="each.id" size="small" :type="pages.length ? undefined : 'primary'" @click="make(each.id)">Make a page for {{ each.name }}</el-button>
    </div>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
.drawer > * { flex: none; }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
h3 { font-size: 14px; }
p { margin: 0; font-size: 13px; }
article { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; padding: 10px 0; border-top: 1px solid var(--rule); }
label:not([class]) { display: flex; flex-direction: column; gap: 2px; width: 100%; font-size: 13px; }
input { padding: 4px 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 14px; }
.ways { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; font-size: 13px; }
.ways .el-button { margin: 0; }
</style>
