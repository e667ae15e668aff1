<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { api, got } from '@/api/client'
import DraftText from '@/shared/DraftText.vue'
import JobLine from '@/shared/JobLine.vue'
import { clock } from '@/shared/format'
import { onTop } from '@/shared/onTop'
import { sureToDelete } from '@/shared/ask'
import { tellError } from '@/shared/tell'
import { assetFile } from '@/api/files'
import { useChoices } from '@/shared/useChoices'
import { cancelJob } from '@/shared/jobs'
import { SHELF_ONE, type Asset, type Licence, type ShelfKind } from './useShelf'
import { useCommands } from '@/commands/registry'

/** One thing on the Shelf: what it is called and found by, who may use it, where it is used. */
const props = defineProps<{ asset: Asset }>()
const emit = defineEmits<{ changed: []; close: [] }>()

const choices = useChoices()
const tag = ref('')
const path = computed(() => ({ params: { path: { asset_id: props.asset.id } } }))
const uses = useQuery({ queryKey: ['uses', () => props.asset.id], queryFn: () => got(api.GET('/api/assets/{asset_id}/clips', path.value)), staleTime: 0 })
const offered = useQuery({ queryKey: ['tags', () => props.asset.id, () => props.asset.version], queryFn: () => got(api.GET('/api/assets/{asset_id}/tags', path.value)), placeholderData: (before) => before })
const rate = computed(() => `${props.asset.width} × ${props.asset.height}`)
useCommands(() => [{ id: 'close-shelf-details', label: 'Close', keys: ['Escape'], run: () => emit('close') }])

let line: Promise<unknown> = Promise.resolve() // changes go out one after another, each on top of the one before
let known = props.asset
watch(() => props.asset, (now) => { if (now.id !== known.id || now.version > known.version) known = now })

function change(what: { name?: string; tags?: string[]; terms?: Partial<Licence>; favourite?: boolean }) {
  const { path: at } = path.value.params
  line = line.then(async () => {
    const send = (version: number) => got(api.PATCH('/api/assets/{asset_id}', { params: { path: at }, body: { version, ...what } }))
    const made = await onTop(known, async () => (await got(api.GET('/api/assets', { params: { query: { kind: [known.kind] } } }))).find((each) => each.id === at.asset_id), send).catch(tellError)
    if (made && made.id === known.id) known = made
    emit('changed')
  })
  return line
}

const rename = (name: string) => { if (name.trim()) void change({ name: name.trim() }) }
const terms = (part: Partial<Licence>) => change({ terms: part })

function addTag() {
  const made = tag.value.split(',').map((each) => each.trim().slice(0, 40)).filter((each) => each && !props.asset.tags.includes(each))
  tag.value = ''
  if (made.length) void change({ tags: [...props.asset.tags, ...made] })
}

async function remove() {
  const clips = (await uses.refetch()).data ?? []
  const told = clips.length ? ` These clips use it and will be without it: ${clips.map((each) => `“${each.title}”`).join(', ')}. They say so, and keep the rest.` : ' No clip uses it.'
  if (!(await sureToDelete(`Delete “${props.asset.name}”?`, `Its file is removed, and this cannot be undone.${told}`))) return
  await got(api.DELETE('/api/assets/{asset_id}', path.value)).catch(tellError)
  emit('changed')
  emit('close')
}

async function again() {
  const prepared = props.asset.kind === 'video' || props.asset.kind === 'sound'
  await (prepared ? got(api.POST('/api/recordings/{recording_id}/prepare', { params: { path: { recording_id: props.asset.key } } })) : got(api.POST('/api/assets/{asset_id}/fetch', path.value))).catch(tellError)
  emit('changed')
}
</script>

<template>
  <aside class="details" :aria-label="asset.name">
    <header>
      <h2>{{ SHELF_ONE[asset.kind as ShelfKind] }}</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <video v-if="asset.kind === 'video' && asset.ready" :src="`/api/recordings/${asset.key}/files/working`" controls muted playsinline></video>
    <img v-else-if="asset.kind !== 'video' && asset.ready" :src="assetFile(asset.id)" alt="">
    <JobLine v-if="asset.job && !asset.ready" :job="asset.job" :name="asset.name" @cancel="cancelJob(asset.job!).catch(tellError)" @retry="again" />
    <p class="quiet time">{{ asset.width ? rate : '' }}{{ asset.seconds ? `, ${clock(asset.seconds)}` : '' }}</p>
    <label>Name <DraftText :key="asset.id" :value="asset.name" maxlength="80" @keep="rename" /></label>
    <el-checkbox :model-value="asset.favourite" label="A favourite" @change="change({ favourite: !!$event })" />
    <div class="field">
      <span>Tags, by which it is found</span>
      <span v-if="asset.tags.length" class="tags"><el-tag v-for="each in asset.tags" :key="each" closable :aria-label="each" @close="change({ tags: asset.tags.filter((other) => other !== each) })">{{ each }}</el-tag></span>
      <span v-if="offered.data.value?.length" class="tags" role="group" aria-label="Tags it could have">
        <el-button v-for="each in offered.data.value" :key="each" size="small" :aria-label="`Add the tag ${each}`" @click="change({ tags: [...asset.tags, each] })">+ {{ each }}</el-button>
      </span>
      <el-input v-model="tag" placeholder="Add one, or several with commas" aria-label="Add a tag" @change="addTag" />
    </div>
    <div class="field">
      <span>Licence</span>
      <el-select :model-value="asset.terms.sort" aria-label="Licence" @change="terms({ sort: $event as Licence['sort'] })">
        <el-option v-for="(label, sort) in choices?.licence_sorts" :key="sort" :label="label" :value="sort" />
      </el-select>
    </div>
    <template v-if="asset.terms.sort !== 'own'">
      <label>Author <DraftText :key="asset.id" :value="asset.terms.credit" maxlength="200" @keep="terms({ credit: $event })" /></label>
      <label>Source <DraftText :key="asset.id" :value="asset.terms.source" maxlength="200" @keep="terms({ source: $event })" /></label>
      <label>Expires (empty: never) <DraftText :key="asset.id" type="date" :value="asset.terms.until ?? ''" @keep="terms({ until: $event || null })" /></label>
    </template>
    <p v-if="asset.refusal" class="alarm" role="alert">It may not be used: {{ asset.refusal }}. Clips that use it cannot be exported.</p>
    <div class="field">
      <span>Clips that use it</span>
      <RouterLink v-for="each in uses.data.value ?? []" :key="each.id" :to="{ name: 'sheet', params: { id: each.id } }">{{ each.title }}</RouterLink>
      <span v-if="uses.data.value && !uses.data.value.length" class="quiet">No clip yet</span>
    </div>
    <el-button size="small" @click="remove">Delete…</el-button>
  </aside>
</template>

<style scoped>
.details { display: flex; flex-direction: column; gap: 12px; align-items: stretch; padding: 14px 16px; border-left: 1px solid var(--rule); overflow-y: auto; font-size: 14px; }
header { display: flex; align-items: center; justify-content: space-between; }
video, img { width: 100%; max-height: 240px; background: var(--paper-2); object-fit: contain; }
label:not(.el-checkbox), .field { display: flex; flex-direction: column; gap: 4px; align-items: flex-start; color: var(--ink-2); font-size: 13px; }
label > input { width: 100%; padding: 5px 8px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font: inherit; font-size: 14px; }
.tags { display: flex; flex-wrap: wrap; gap: 4px; }
.tags .el-button { margin: 0; padding: 2px 8px; }
p { margin: 0; }
.details > .el-button { align-self: flex-start; }
</style>
