<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { useInfiniteScroll } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import LinkDialog from '@/recordings/LinkDialog.vue'
import ShelfCard from './ShelfCard.vue'
import ShelfDetails from './ShelfDetails.vue'
import UploadLine from '@/recordings/UploadLine.vue'
import { api, got } from '@/api/client'
import { tellError } from '@/shared/tell'
import { useCommands } from '@/commands/registry'
import { useAssets, type AssetKind } from './useAssets'
import { useChoices } from '@/shared/useChoices'
import { useFirst } from '@/shared/useFirst'
import { SEEN, SHELF_KINDS, useShelf, useStock, type ShelfKind, type StockItem } from './useShelf'
import { useTaking } from './useTaking'
import { useUploads } from '@/recordings/useUploads'

/** What the workspace has to show over its words, and a stock library to take more from. */
const ALL = Object.keys(SHELF_KINDS) as ShelfKind[]
const STOCKED: ShelfKind[] = [...SEEN, 'sound']
const MANY = 36 // things that are drawn at once
const text = ref('')
const kind = ref<ShelfKind | 'all'>('all')
const place = ref<'own' | 'stock'>('own')
const starred = ref(false)
const page = ref(1)
const chosen = ref('')
const chooser = ref<HTMLInputElement | null>(null)
const over = ref(false)
const linking = ref(false)

/** All of it is asked for at once: another kind is seen at once, too. */
const { items: all, query, changed } = useShelf(text, ref(ALL))
const items = computed(() => (kind.value === 'all' ? all.value : all.value.filter((each) => each.kind === kind.value)))
const wanted = reactive<Record<string, string>>({}) // of each trait
/** What the things of these kinds can be told apart by: traits of which there is more than one. */
const traits = computed(() => {
  const found = new Map<string, Set<string>>()
  for (const { traits } of items.value) for (const [name, values] of Object.entries(traits)) found.set(name, new Set([...(found.get(name) ?? []), ...values]))
  return [...found].filter(([name, values]) => values.size > 1 || wanted[name]).map(([name, values]) => ({ name, values: [...values].sort() }))
})
const narrowed = computed(() => starred.value || Object.values(wanted).some(Boolean))
const shown = computed(() => items.value.filter((each) => (!starred.value || each.favourite) && Object.entries(wanted).every(([name, value]) => !value || each.traits[name]?.includes(value))))
const { first, left, more } = useFirst(shown, MANY)
const sheet = ref<HTMLElement | null>(null)
useInfiniteScroll(sheet, more, { distance: 600, canLoadMore: () => left.value > 0 })
function showAll() {
  starred.value = false
  for (const name of Object.keys(wanted)) wanted[name] = ''
}
const stockKind = computed(() => (kind.value === 'all' || kind.value === 'sticker' ? null : kind.value))
const stock = useStock(text, stockKind, page)
watch([text, stockKind], () => (page.value = 1))
watch(place, (now) => { if (now === 'stock' && kind.value === 'sticker') kind.value = 'all' })
const { take, taking } = useTaking(changed)
const asset = computed(() => items.value.find((each) => each.id === chosen.value))

const choices = useChoices()
const uploads = useUploads(() => choices.value?.upload_hours ?? 0, () => void changed())
const pictures = useAssets('picture'), stickers = useAssets('sticker')

/** Where a file goes: by what it is, and for a PNG or WebP by the kind that is looked at. */
function kindOf(file: File): AssetKind {
  if (file.type.startsWith('audio/')) return 'sound'
  if (file.type.startsWith('video/') || /\.(mkv|mov|mxf)$/i.test(file.name)) return 'video'
  return /\.(svg|gif)$/i.test(file.name) || kind.value === 'sticker' ? 'sticker' : 'picture'
}

async function bringIn(files: FileList | null | undefined) {
  for (const file of [...(files ?? [])]) {
    const own = kindOf(file)
    if (own === 'video' || own === 'sound') uploads.start(file, { shelf: true })
    else await (own === 'sticker' ? stickers : pictures).bringIn(file).catch((problem: Error) => ElMessage.error({ message: `${file.name}: ${problem.message}`, duration: 8000 }))
  }
  if (chooser.value) chooser.value.value = ''
  place.value = 'own'
  await changed()
}

function drop(event: DragEvent) {
  over.value = false
  void bringIn(event.dataTransfer?.files)
}

async function fetchLink(link: string, kind: string) {
  const made = await got(api.POST('/api/assets/links', { body: { link, kind: kind as ShelfKind } })).catch(tellError)
  if (!made) return
  linking.value = false
  place.value = 'own'
  await changed()
  chosen.value = made.id
}

async function pick(item: StockItem) {
  const made = await take(item)
  if (!made) return
  place.value = 'own'
  chosen.value = made.id
}

useCommands(() => [
  { id: 'bring-in-to-shelf', label: 'Bring in films, pictures, music, logos…', run: () => chooser.value?.click() },
  { id: 'link-to-shelf', label: 'Bring in from a link…', run: () => (linking.value = true) },
  { id: 'show-stock', label: place.value === 'own' ? 'Look through the stock library' : 'Look at our Shelf', run: () => (place.value = place.value === 'own' ? 'stock' : 'own') },
])
</script>

<template>
  <div class="view" :class="{ over, open: !!asset }" @dragover.prevent="over = true" @dragleave.self="over = false" @drop.prevent="drop">
    <Teleport defer to="#actions">
      <el-button @click="linking = true">From a link…</el-button>
      <el-button type="primary" @click="chooser?.click()">Bring in</el-button>
    </Teleport>
    <LinkDialog :open="linking" :kinds="SHELF_KINDS" @close="linking = false" @fetch="fetchLink" />
    <input ref="chooser" type="file" multiple accept="video/*,audio/*,.mkv,.png,.jpg,.jpeg,.webp,.gif,.svg" hidden data-test="shelf-files" @change="bringIn(chooser?.files)">
    <section ref="sheet" class="shelf" aria-label="Shelf">
      <div class="heading">
        <h1>Shelf</h1>
        <el-radio-group v-model="place" size="small" aria-label="Where">
          <el-radio-button value="own">Ours</el-radio-button>
          <el-radio-button value="stock">Stock library</el-radio-button>
        </el-radio-group>
        <input v-model="text" type="search" class="search" placeholder="A clock, rain, people at work…" aria-label="Search by words or by what is seen">
      </div>
      <div class="narrow">
        <el-radio-group v-model="kind" size="small" aria-label="Kind">
          <el-radio-button value="all">All</el-radio-button>
          <el-radio-button v-for="each in place === 'own' ? ALL : STOCKED" :key="each" :value="each">{{ SHELF_KINDS[each] }}</el-radio-button>
        </el-radio-group>
        <template v-if="place === 'own'">
          <el-select v-for="each in traits" :key="each.name" v-model="wanted[each.name]" size="small" clearable :placeholder="each.name" :aria-label="each.name" class="trait">
            <el-option v-for="value in each.values" :key="value" :value="value" :label="value.charAt(0).toUpperCase() + value.slice(1)" />
          </el-select>
          <el-checkbox v-model="starred" label="Favourites only" />
        </template>
      </div>
      <UploadLine v-for="entry in uploads.list.value" :key="entry.key" :entry="entry" @pause="uploads.pause(entry)" @go-on="uploads.goOn(entry)" @cancel="uploads.cancel(entry)" />
      <template v-if="place === 'own'">
        <div class="items">
          <ShelfCard v-for="each in first" :key="each.id" :item="each" :chosen="each.id === chosen" @pick="chosen = each.id" />
        </div>
        <el-button v-if="left" class="more" @click="more">Show more ({{ left }})</el-button>
        <p v-if="query.error.value" class="alarm" role="alert">{{ query.error.value.message }}</p>
        <div v-else-if="!query.isPending.value && !shown.length" class="empty">
          <template v-if="narrowed && items.length">
            <h2>Nothing found</h2>
            <p class="quiet">Nothing here is all that at once.</p>
            <el-button @click="showAll">Show all {{ items.length }} again</el-button>
          </template>
          <template v-else-if="text || kind !== 'all'">
            <h2>Nothing found</h2>
            <p class="quiet">Nothing here {{ text ? `shows “${text}”` : 'is of that kind' }}. The stock library may have something.</p>
            <el-button @click="place = 'stock'">Look there</el-button>
          </template>
          <template v-else>
            <h2>Nothing here yet</h2>
            <p class="quiet">Drop films, photos, music, sounds, logos and stickers on this page, or press <b>Bring in</b>.<br>Or take some from the stock library.</p>
            <el-button @click="place = 'stock'">Look through the stock library</el-button>
          </template>
        </div>
      </template>
      <template v-else>
        <p class="quiet stock">Harbour Stock, a pretend library that ships with Hovvet. What you take stands on your Shelf, with its licence.</p>
        <div class="items">
          <ShelfCard v-for="each in stock.items.value" :key="each.id" v-loading="taking === each.id" :item="each" :chosen="!!each.key" @pick="pick(each)" />
        </div>
        <p v-if="!stock.query.isPending.value && !stock.items.value.length" class="quiet">The library has nothing that shows “{{ text }}”.</p>
        <el-pagination v-if="stock.total.value > stock.size.value" v-model:current-page="page" :page-size="stock.size.value" :total="stock.total.value" layout="prev, pager, next" />
      </template>
    </section>
    <ShelfDetails v-if="asset" :asset="asset" @changed="changed" @close="chosen = ''" />
  </div>
</template>

<style scoped>
.view { display: grid; grid-template-columns: minmax(0, 1fr); height: 100%; }
.view.open { grid-template-columns: minmax(0, 1fr) 340px; }
.over { outline: 3px dashed var(--pencil); outline-offset: -10px; }
.shelf { padding: 24px 32px; overflow-y: auto; }
.heading, .narrow { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; margin-bottom: 12px; }
.more { margin-top: 14px; }
.trait { width: 150px; }
.search { width: 280px; margin-left: auto; padding: 4px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 14px; }
.items { display: grid; grid-template-columns: repeat(auto-fill, minmax(190px, 1fr)); gap: 14px; }
.stock { margin: 0 0 12px; font-size: 13px; }
.empty { margin-top: 60px; text-align: center; }
.el-pagination { margin-top: 16px; }
@media (width < 900px) {
  .view.open { grid-template-columns: minmax(0, 1fr); grid-template-rows: 1fr auto; }
  .shelf { padding: 16px 20px; }
}
</style>
