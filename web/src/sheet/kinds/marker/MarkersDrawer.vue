<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import type { Doc } from '@/document/useDocument'

/** All markers of the clip in order, those that sleep last. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; go: [layer: string, seconds: number | null] }>()

const markers = computed(() =>
  props.doc.bars.filter((bar) => bar.kind === 'marker').sort((a, b) => (a.start ?? Infinity) - (b.start ?? Infinity)),
)
const sorts = computed(() => new Map(props.doc.sheet.layers?.map((each) => [each.id, each.content.kind === 'marker' ? each.content.sort : ''])))
const heading = ref<HTMLElement | null>(null)
useCommands(() => [{ id: 'close-markers', label: 'Close', keys: ['Escape'], run: () => emit('close') }])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Markers">
    <header>
      <h2 ref="heading" tabindex="-1">Markers</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="!markers.length" class="quiet">None yet. Select words and press M to leave a note at them.</p>
    <ol>
      <li v-for="each in markers" :key="each.layer">
        <button @click="$emit('go', each.layer, each.start)">
          <span class="time quiet">{{ each.start === null ? 'asleep' : clock(each.start) }}</span>
          <span>{{ each.label }}</span>
          <span class="quiet">{{ sorts.get(each.layer) }}</span>
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 8px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
ol { margin: 0; padding: 0; list-style: none; }
button { display: grid; grid-template-columns: 64px 1fr auto; gap: 8px; width: 100%; padding: 7px 0; border: 0; border-bottom: 1px solid var(--rule); background: none; font-size: 14px; text-align: left; cursor: pointer; }
button:hover { background: var(--paper-2); }
</style>
