<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted, ref, toRef } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { moment } from '@/shared/format'
import type { Doc } from './useDocument'

/** Every change of a document: what, who, when; any of them can be gone back to. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; back: [revision: number] }>()

const doc = toRef(props, 'doc')
const heading = ref<HTMLElement | null>(null)
const query = useQuery({
  queryKey: ['history', computed(() => doc.value.id), computed(() => doc.value.version)],
  queryFn: () => got(api.GET('/api/documents/{document_id}/history', { params: { path: { document_id: doc.value.id } } })),
  placeholderData: (before) => before,
})

useCommands(() => [{ id: 'close-history', label: 'Close', keys: ['Escape'], run: () => emit('close') }])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="history" aria-label="History">
    <header>
      <h2 ref="heading" tabindex="-1">History</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p class="quiet">Undo takes back what you did since you opened this. From here you can go back to anything.</p>
    <p v-if="query.error.value" class="alarm" role="alert">{{ query.error.value.message }}</p>
    <ol>
      <li v-for="each in query.data.value" :key="each.id" :aria-current="each.current ? 'true' : undefined">
        <span class="what">{{ each.what }}</span>
        <span class="quiet">{{ each.who || 'Hovvet' }}, {{ moment(each.when) }}</span>
        <b v-if="each.current" class="now">Now</b>
        <el-button v-else text size="small" :aria-label="`Go back to: ${each.what}`" @click="$emit('back', each.id)">Go back</el-button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.history { display: flex; flex-direction: column; gap: 8px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 13px; }
ol { margin: 0; padding: 0; list-style: none; font-size: 14px; }
li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 8px; align-items: center; padding: 6px 0; border-bottom: 1px solid var(--rule); }
li .quiet { grid-row: 2; font-size: 12px; }
li > :last-child { grid-column: 2; grid-row: 1 / 3; }
li[aria-current] { border-left: 2px solid var(--pencil); padding-left: 8px; }
.now { color: var(--pencil); font-size: 13px; }
</style>
