<script setup lang="ts">
import { computed } from 'vue'
import { useHouse } from '@/document/useHouse'
import { useOutlets } from '@/document/useOutlets'
import DraftSlider from '@/shared/DraftSlider.vue'
import { useChoices } from '@/shared/useChoices'
import type { Settings } from './useDrafts'

/** What a clip from a text is to be like: where it goes, how long it is, who reads it, how it looks. */
defineProps<{ settings: Settings }>()
const emit = defineEmits<{ change: [what: Partial<Settings>] }>()

const { outlets } = useOutlets()
const { houses } = useHouse()
const choices = useChoices()
const MYSELF = ''
const limits = computed(() => choices.value?.drafts)
const value = (event: Event) => (event.target as HTMLSelectElement).value
</script>

<template>
  <label>Outlet
    <select :value="settings.outlet" aria-label="Outlet" @change="emit('change', { outlet: value($event) })">
      <option v-for="each in outlets" :key="each.key" :value="each.key">{{ each.name }}</option>
    </select>
  </label>
  <label>Length, in seconds
    <DraftSlider :value="settings.seconds" label="Length in seconds" :least="limits?.shortest" :most="limits?.longest" :step="5" @keep="emit('change', { seconds: $event })" />
  </label>
  <label>Read by
    <select :value="settings.narrator ?? MYSELF" aria-label="Read by" @change="emit('change', { narrator: (value($event) || null) as Settings['narrator'] })">
      <option v-for="(name, key) in limits?.narrators" :key="key" :value="key">Voice: {{ name }}</option>
      <option :value="MYSELF">I will speak it myself</option>
    </select>
  </label>
  <label v-if="settings.narrator">Pace
    <DraftSlider :value="settings.pace" label="Pace of the voice" percent :least="limits?.slowest" :most="limits?.fastest" :step="0.05" @keep="emit('change', { pace: $event })" />
  </label>
  <label>House style
    <select :value="settings.house" aria-label="House style" @change="emit('change', { house: value($event) })">
      <option value="">None</option>
      <option v-for="each in houses" :key="each.key" :value="each.key">{{ each.name }}</option>
    </select>
  </label>
</template>

<style scoped>
label { display: flex; flex-direction: column; gap: 4px; font-weight: 500; }
select { padding: 6px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font: inherit; }
</style>
