<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import { clock } from '@/composables/format'
import { assetFile, useAssets } from '@/composables/useAssets'
import BringIn from './BringIn.vue'

/** What can be laid over words: pictures that the workspace brought in, and its recordings. */
defineProps<{ chosen?: string }>()
defineEmits<{ pick: [media: string] }>()

const { assets } = useAssets('picture')
const all = useQuery({ queryKey: ['recordings'], queryFn: () => got(api.GET('/api/recordings')) })
const search = ref('')
const has = (name: string) => search.value.toLowerCase().split(/\s+/).every((word) => name.toLowerCase().includes(word))
const pictures = computed(() => assets.value.filter((each) => has(each.name)))
const recordings = computed(() => (all.data.value ?? []).filter((each) => each.media?.has_picture && each.playable && each.words_ready && has(each.title)))
</script>

<template>
  <div class="shelf">
    <el-input v-model="search" size="small" placeholder="Find by name" aria-label="Find by name" clearable />
    <h3>Pictures</h3>
    <div class="items">
      <button v-for="each in pictures" :key="each.key" :class="{ chosen: each.key === chosen }" :title="each.name" data-test="shelf-item" @click="$emit('pick', each.key)">
        <img :src="assetFile(each.key)" alt="" loading="lazy"><span>{{ each.name }}</span>
      </button>
    </div>
    <p v-if="!pictures.length" class="quiet">{{ assets.length ? 'None of that name.' : 'None yet: photos, slides, drawings, as PNG, JPEG or WebP.' }}</p>
    <BringIn kind="picture" accept=".png,.jpg,.jpeg,.webp" @brought="$emit('pick', $event)">Bring in pictures…</BringIn>
    <h3>Recordings</h3>
    <div class="items">
      <button v-for="each in recordings" :key="each.id" :class="{ chosen: each.id === chosen }" :title="each.title" data-test="shelf-item" @click="$emit('pick', each.id)">
        <i :style="{ backgroundImage: `url(/api/recordings/${each.id}/files/thumbs)` }"></i><span>{{ each.title }} <span class="time quiet">{{ clock(each.duration, false) }}</span></span>
      </button>
    </div>
    <p v-if="!recordings.length" class="quiet">None with a picture that is ready.</p>
  </div>
</template>

<style scoped>
.shelf { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
h3 { margin: 6px 0 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
.items { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; width: 100%; }
.items button { display: flex; flex-direction: column; gap: 3px; min-width: 0; padding: 4px; border: 1px solid var(--rule); border-radius: 4px; background: none; font-size: 13px; text-align: left; cursor: pointer; }
.items button.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
.items span { display: block; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
img, i { width: 100%; aspect-ratio: 16 / 9; background-color: var(--paper-2); background-size: 1000% auto; object-fit: cover; }
</style>
