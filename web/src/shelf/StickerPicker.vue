<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { assetFile } from '@/api/files'
import { useAssets } from './useAssets'
import { useStock, type ShelfKind, type StockItem } from './useShelf'
import { useTaking } from './useTaking'
import BringIn from './BringIn.vue'

/** Logos and stickers that the workspace brought in, and emoji: first those for what is `said`. */
const props = defineProps<{ chosen?: string; said?: string }>()
const emit = defineEmits<{ pick: [media: string] }>()

const { assets } = useAssets('sticker')
const client = useQueryClient()
const { take, taking } = useTaking(() => client.invalidateQueries({ queryKey: ['assets-sticker'] }))
const search = ref('')
const page = ref(1)
const nothing = ref(false) // there is none for what is said: all are shown
const emoji = useStock(computed(() => search.value.trim() || (nothing.value ? '' : (props.said ?? ''))), ref<ShelfKind>('sticker'), page)
watch(search, () => (page.value = 1))
watch(() => emoji.query.data.value, (found) => { if (found?.total === 0 && !search.value) nothing.value = true })
const pages = computed(() => Math.ceil(emoji.total.value / emoji.size.value))
const shown = computed(() => assets.value.filter((each) => each.name.toLowerCase().includes(search.value.trim().toLowerCase())))

async function pickEmoji(item: StockItem) {
  const made = await take(item)
  if (made) emit('pick', made.key)
}
</script>

<template>
  <div class="stickers">
    <el-input v-model="search" size="small" placeholder="Find by name: a clock, a heart" aria-label="Find by name" clearable />
    <h3 v-if="assets.length">On your Shelf</h3>
    <div class="items">
      <button v-for="each in shown" :key="each.key" :class="{ chosen: each.key === chosen }" :disabled="!!each.refusal" :title="each.refusal ? `${each.name}: ${each.refusal}` : each.name" :aria-label="each.name" :aria-pressed="each.key === chosen" data-test="sticker-item" @click="$emit('pick', each.key)">
        <img :src="assetFile(each.key)" alt="" loading="lazy" :class="{ moving: each.moves }">
      </button>
    </div>
    <p v-if="!shown.length" class="quiet">{{ assets.length ? 'None of that name.' : 'None yet: logos and small pictures that can be seen through, as PNG, WebP, GIF or SVG.' }}</p>
    <BringIn kind="sticker" accept=".png,.webp,.gif,.svg" @brought="$emit('pick', $event.key)">Bring in logos or stickers…</BringIn>
    <h3>{{ !search && said && !nothing ? 'Emoji for these words' : 'Emoji' }}</h3>
    <div class="items small" data-test="emoji">
      <button v-for="each in emoji.items.value" :key="each.id" v-loading="taking === each.id" :title="each.name" :aria-label="each.name" data-test="emoji-item" @click="pickEmoji(each)">
        <img :src="`/api/stock/${each.id}/preview`" alt="" loading="lazy">
      </button>
    </div>
    <p v-if="!emoji.items.value.length && !emoji.query.isLoading.value" class="quiet">No emoji of that name.</p>
    <span v-if="pages > 1" class="pages">
      <el-button size="small" :disabled="page === 1" @click="page--">Before</el-button><span class="time quiet">{{ page }} of {{ pages }}</span><el-button size="small" :disabled="page === pages" @click="page++">Next</el-button>
    </span>
  </div>
</template>

<style scoped>
.stickers { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
p { margin: 0; font-size: 13px; }
.items { display: grid; grid-template-columns: repeat(auto-fill, minmax(64px, 1fr)); gap: 8px; width: 100%; }
h3 { margin: 6px 0 0; font-size: 14px; }
.items.small { grid-template-columns: repeat(auto-fill, minmax(40px, 1fr)); gap: 4px; }
.small button { height: 40px; padding: 4px; background: none; }
.pages { display: flex; gap: 8px; align-items: center; }
.items:empty { display: none; }
button { height: 64px; padding: 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper-2); cursor: pointer; }
button:disabled { opacity: 0.45; cursor: not-allowed; }
button.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
img { width: 100%; height: 100%; object-fit: contain; }
img.moving { object-fit: cover; object-position: top; }
</style>
