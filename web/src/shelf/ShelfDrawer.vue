<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import { focusFirst } from '@/shared/focus'
import ShelfPicker from './ShelfPicker.vue'

/** What is to be seen over the selected words. */
defineProps<{ said: string; shown: string[] }>()
const emit = defineEmits<{ close: []; pick: [media: string] }>()
const panel = ref<HTMLElement | null>(null)
useCommands(() => closing('close-shelf', () => emit('close'), '[data-shelf-panel]'))
onMounted(() => focusFirst(panel.value))
</script>

<template>
  <section ref="panel" class="drawer" aria-label="B-roll" data-shelf-panel>
    <header>
      <h2 tabindex="-1">B-roll</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p class="quiet">The speech continues underneath.</p>
    <ShelfPicker :said="said" :shown="shown" @pick="$emit('pick', $event)" />
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
</style>
