<script setup lang="ts">
import { computed, ref } from 'vue'
import { assetFile, useAssets } from '@/composables/useAssets'
import BringIn from './BringIn.vue'

/** Logos and stickers that the workspace brought in. */
defineProps<{ chosen?: string }>()
defineEmits<{ pick: [media: string] }>()

const { assets } = useAssets('sticker')
const search = ref('')
const shown = computed(() => assets.value.filter((each) => each.name.toLowerCase().includes(search.value.trim().toLowerCase())))
</script>

<template>
  <div class="stickers">
    <el-input v-if="assets.length > 6" v-model="search" size="small" placeholder="Find by name" aria-label="Find by name" clearable />
    <div class="items">
      <button v-for="each in shown" :key="each.key" :class="{ chosen: each.key === chosen }" :title="each.name" :aria-label="each.name" :aria-pressed="each.key === chosen" data-test="sticker-item" @click="$emit('pick', each.key)">
        <img :src="assetFile(each.key)" alt="" loading="lazy">
      </button>
    </div>
    <p v-if="!shown.length" class="quiet">{{ assets.length ? 'None of that name.' : 'None yet: logos and small pictures that can be seen through, as PNG, WebP or SVG.' }}</p>
    <BringIn kind="sticker" accept=".png,.webp,.svg" @brought="$emit('pick', $event.key)">Bring in logos or stickers…</BringIn>
  </div>
</template>

<style scoped>
.stickers { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
p { margin: 0; font-size: 13px; }
.items { display: grid; grid-template-columns: repeat(auto-fill, minmax(64px, 1fr)); gap: 8px; width: 100%; }
.items:empty { display: none; }
button { height: 64px; padding: 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper-2); cursor: pointer; }
button.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
img { width: 100%; height: 100%; object-fit: contain; }
</style>
