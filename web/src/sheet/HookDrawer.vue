<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import type { Doc } from '@/document/useDocument'

type Hook = Schemas['HookOut']

/** Three lines of the clip that could open it: heard by key, moved or repeated at the front as one change. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; hear: [hook: Hook]; move: [hook: Hook, repeat: boolean] }>()

const query = useQuery({
  queryKey: ['hooks', () => props.doc.id, () => props.doc.version],
  queryFn: () => got(api.GET('/api/documents/{document_id}/hooks', { params: { path: { document_id: props.doc.id }, query: { edition: props.doc.edition } } })),
})
const all = computed(() => query.data.value ?? [])
const at = ref(0)
const heading = ref<HTMLElement | null>(null)
function walk(by: number) {
  at.value = Math.min(Math.max(at.value + by, 0), Math.max(all.value.length - 1, 0))
}
const own = () => all.value[at.value]
useCommands(() => [
  { id: 'close-hooks', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'hook-next', label: 'The next line', keys: ['Down'], run: () => walk(1) },
  { id: 'hook-before', label: 'The line before', keys: ['Up'], run: () => walk(-1) },
  { id: 'hook-hear', label: 'Hear the line', keys: ['P'], run: () => own() && emit('hear', own()!) },
  { id: 'hook-move', label: 'Move the line to the start', keys: ['Enter'], run: () => own() && emit('move', own()!, false) },
  { id: 'hook-repeat', label: 'Tease with the line', keys: ['R'], run: () => own() && emit('move', own()!, true) },
])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Find a hook">
    <header>
      <h2 ref="heading" tabindex="-1">Find a hook</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p class="quiet">Lines that could open this clip. P plays one, Enter moves it to the start, R teases it there.</p>
    <p v-if="query.isPending.value" role="status" class="quiet">Looking for lines…</p>
    <p v-else-if="query.error.value" class="alarm" role="alert">{{ query.error.value.message }}</p>
    <p v-else-if="!all.length" class="quiet">There is no other line in this clip that could open it.</p>
    <ol>
      <li v-for="(each, n) in all" :key="each.start" :class="{ now: n === at }" data-test="hook" @click="at = n">
        <p class="line"><span class="time quiet">{{ clock(each.start) }}</span> {{ each.text }}</p>
        <p v-if="each.ending" class="ending">Gives away how it ends</p>
        <div v-if="n === at" class="acts">
          <el-button size="small" @click="$emit('hear', each)">Play</el-button>
          <el-button size="small" type="primary" @click="$emit('move', each, false)">Move to the start</el-button>
          <el-button size="small" @click="$emit('move', each, true)">Tease at the start</el-button>
        </div>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
ol { margin: 0; padding: 0; list-style: none; border-top: 1px solid var(--rule); }
li { padding: 8px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; cursor: pointer; }
li.now { border-left-color: var(--pencil); background: var(--paper-2); }
.line { font: 15px/1.4 var(--serif); }
.ending { margin-top: 3px; color: var(--rust); font-size: 13px; }
.acts { display: flex; flex-wrap: wrap; gap: 6px; margin-top: 6px; }
.acts .el-button { margin: 0; }
</style>
