<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, inject, ref } from 'vue'
import FieldsForm from '@/shared/FieldsForm.vue'
import { SAVED } from '@/sheet/kinds/saved'
import { useChoices } from '@/shared/useChoices'
import type { Content, Doc } from '@/document/useDocument'

type Title = Extract<Content, { kind: 'title' | 'slide' }>

/** How a title looks: templates, each shown with its words, and where it stands. */
const props = defineProps<{ content: Title; fields: Record<string, unknown>; doc: Doc; layer: string; time: number; first?: string /* the sort of templates that comes first */ }>()
const emit = defineEmits<{ change: [content: Content] }>()

const choices = useChoices()
const search = ref('')
const all = computed(() => (choices.value?.templates ?? []).filter((each) => `${each.sort} ${each.name}`.toLowerCase().includes(search.value.trim().toLowerCase())))
const FAVOURITES = 'Favourites'
const favourites = useStorage<string[]>('hovvet-favourite-templates', []) // of this person, on this machine
const sorts = computed(() => {
  const every = [...new Set(all.value.map((each) => each.sort))].sort((a, b) => Number(b === props.first) - Number(a === props.first))
  return of(FAVOURITES).length ? [FAVOURITES, ...every] : every
})
const of = (sort: string) => all.value.filter((each) => (sort === FAVOURITES ? favourites.value.includes(each.key) : each.sort === sort))
/** Those that are looked for; else a few: the one that it has, favourites, those of its sort; all of them when asked for. */
const FEW = 6
const every = ref(false)
const shown = computed(() => {
  if (search.value.trim() || every.value) return sorts.value.map((sort) => ({ sort, own: of(sort) }))
  const sort = all.value.find((each) => each.key === props.content.template)?.sort ?? props.first
  const likely = (each: { key: string; sort: string }) => Number(each.key === props.content.template) * 4 + Number(favourites.value.includes(each.key)) * 2 + Number(each.sort === sort || each.sort === props.first)
  return [{ sort: '', own: [...all.value].sort((a, b) => likely(b) - likely(a)).slice(0, FEW) }]
})
const star = (key: string) => (favourites.value = favourites.value.includes(key) ? favourites.value.filter((each) => each !== key) : [...favourites.value, key])
/** What templates are shown with: the words that are kept, so that nothing is drawn while they are typed. */
const saved = inject(SAVED)
const said = computed(() => (saved?.value as Title | undefined) ?? null)
const sample = (key: string) => said.value && `/api/captions/titles/${key}/sample?${new URLSearchParams({ text: said.value.text || '…', second: said.value.second ?? '' })}`
const set = (part: Partial<Title>) => emit('change', { ...props.content, ...part } as Content)
</script>

<template>
  <el-checkbox :model-value="content.height !== null" label="Custom position" @change="set({ height: $event ? 0.5 : null })" />
  <FieldsForm v-if="content.height !== null" :values="{ height: content.height }" :fields="fields" only="height" @change="set($event)" />
  <el-input v-model="search" size="small" placeholder="Find a template: a quote, a name" aria-label="Find a template" clearable />
  <p v-if="!all.length" class="quiet">No template of that name.</p>
  <div class="templates" role="radiogroup" aria-label="Template">
    <template v-for="{ sort, own } in shown" :key="sort">
      <h3 v-if="sort">{{ sort }}</h3>
      <div v-for="each in own" :key="`${sort} ${each.key}`" class="template">
        <label :class="{ chosen: content.template === each.key }">
          <input type="radio" :name="`title-template-${sort}`" :value="each.key" :checked="content.template === each.key" @change="set({ ...each.sets, template: each.key, height: null })">
          <img :src="sample(each.key) ?? undefined" alt="" width="240" height="120" loading="lazy">
          <span>{{ each.name }}</span>
        </label>
        <button class="star" :aria-pressed="favourites.includes(each.key)" :aria-label="`A favourite: ${each.name}`" :title="favourites.includes(each.key) ? 'No favourite any more' : 'Make it a favourite'" @click="star(each.key)">{{ favourites.includes(each.key) ? '★' : '☆' }}</button>
      </div>
    </template>
  </div>
  <el-button v-if="!search && !every" size="small" @click="every = true">All {{ all.length }} templates</el-button>
</template>

<style scoped>
.templates { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; width: 100%; }
h3 { grid-column: 1 / -1; margin: 4px 0 0; font-size: 14px; }
.templates label { display: flex; flex-direction: column; gap: 3px; padding: 5px; border: 1px solid var(--rule); border-radius: 4px; font-size: 13px; cursor: pointer; }
.templates label.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
.templates label:focus-within { outline: 2px solid var(--pencil); outline-offset: 1px; }
.template { position: relative; }
.star { position: absolute; right: 6px; bottom: 5px; padding: 0 2px; border: 0; background: none; color: var(--ink-2); font-size: 15px; line-height: 1; cursor: pointer; }
input[type='radio'] { position: absolute; opacity: 0; pointer-events: none; }
img { width: 100%; height: auto; border-radius: 2px; aspect-ratio: 2; }
</style>
