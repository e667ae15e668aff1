<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import { clock } from '@/shared/format'
import { useFirst } from '@/shared/useFirst'
import { SEEN, useShelf, useStock, type ShelfKind, type StockItem } from './useShelf'
import { useTaking } from './useTaking'
import BringIn from './BringIn.vue'
import ShelfCard from './ShelfCard.vue'
import SoundWave from '@/player/SoundWave.vue'

/**
 * What can be laid over words, to be seen or (`heard`) to be heard: what stands on the Shelf, what the stock library has,
 * the recordings. The search begins with what is `said`.
 */
const props = defineProps<{ chosen?: string; said?: string; shown?: string[]; heard?: boolean }>()
const emit = defineEmits<{ pick: [media: string] }>()

const kinds = ref<ShelfKind[]>(props.heard ? ['sound'] : SEEN)
const FEW = 4, MANY = 12 // of the stock library, beside what is the workspace's own
const text = ref(props.said ?? '')
const fresh = ref(false) // only what the clip does not show yet
const { items, query, changed } = useShelf(text, kinds)
const stock = useStock(text, ref<ShelfKind | null>(props.heard ? 'sound' : null), ref(1))
const { take, taking } = useTaking(changed)
const own = computed(() => items.value.filter((each) => each.ready || each.kind === 'video' || each.kind === 'sound').filter((each) => !fresh.value || !props.shown?.includes(each.key)))
const { first, left, more } = useFirst(own, MANY)
const offered = computed(() => stock.items.value.filter((each) => !each.key && kinds.value.includes(each.kind)).slice(0, props.heard ? MANY : FEW))
const all = useQuery({ queryKey: ['recordings'], queryFn: () => got(api.GET('/api/recordings')) })
const named = (name: string) => text.value === props.said || text.value.toLowerCase().split(/\s+/).every((word) => name.toLowerCase().includes(word))
const recordings = computed(() => (all.data.value ?? []).filter((each) => (props.heard ? each.media?.has_sound : each.media?.has_picture) && each.playable && each.words_ready && named(each.title)))

async function pickStock(item: StockItem) {
  const made = await take(item)
  if (made) emit('pick', made.key)
}
</script>

<template>
  <div class="shelf">
    <el-input v-model="text" size="small" :placeholder="heard ? 'What is to be heard' : 'What is to be seen'" aria-label="Find on the Shelf" clearable />
    <el-checkbox v-if="shown?.length" v-model="fresh" size="small" label="Only what is not in this clip yet" />
    <h3>On your Shelf</h3>
    <div class="items" data-test="own">
      <ShelfCard v-for="each in first" :key="each.key" choosing :item="each" :chosen="each.key === chosen" @pick="$emit('pick', each.key)" />
    </div>
    <el-button v-if="left" size="small" @click="more">Show more ({{ left }})</el-button>
    <p v-if="!own.length && !query.isLoading.value" class="quiet">{{ text ? 'Nothing on it is like this.' : heard ? 'Nothing yet: music and sounds are brought in on the Shelf.' : 'Nothing yet: films are brought in on the Shelf, pictures here too.' }} <button v-if="text" class="link" @click="text = ''">Show all</button></p>
    <BringIn v-if="!heard" kind="picture" accept=".png,.jpg,.jpeg,.webp" @brought="$emit('pick', $event.key)">Bring in pictures…</BringIn>
    <template v-if="offered.length">
      <h3>From the stock library</h3>
      <div class="items" data-test="stock">
        <ShelfCard v-for="each in offered" :key="each.id" v-loading="taking === each.id" :item="each" @pick="pickStock(each)" />
      </div>
    </template>
    <template v-if="recordings.length">
      <h3>Recordings</h3>
      <div class="items" data-test="recordings">
        <button v-for="each in recordings" :key="each.id" class="recording" :class="{ chosen: each.id === chosen }" :title="each.title" data-test="shelf-item" @click="$emit('pick', each.id)">
          <i v-if="each.media?.has_picture" :style="{ backgroundImage: `url(/api/recordings/${each.id}/files/thumbs)` }"></i><i v-else><SoundWave :recording="each.id" ready /></i><span>{{ each.title }} <span class="time quiet">{{ clock(each.duration, false) }}</span></span>
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
.shelf { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
h3 { margin: 6px 0 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
.items { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; width: 100%; }
.items:empty { display: none; }
.recording { display: flex; flex-direction: column; gap: 3px; min-width: 0; padding: 4px; border: 1px solid var(--rule); border-radius: 4px; background: none; font-size: 13px; text-align: left; cursor: pointer; }
.recording.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
.recording span { display: block; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
i { width: 100%; aspect-ratio: 16 / 9; background-color: var(--paper-2); background-size: 1000% auto; }
</style>
