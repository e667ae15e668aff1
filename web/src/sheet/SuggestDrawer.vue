<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, onMounted, reactive, ref, watch } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import type { Doc } from '@/document/useDocument'
import type { Asset, StockItem } from '@/shelf/useShelf'
import { useTaking } from '@/shelf/useTaking'
import type { WordRef } from '@/document/tokens'
import ShelfCard from '@/shelf/ShelfCard.vue'

/** What could be seen while the clip is heard, stretch by stretch. Nothing is laid but what is chosen. */
const props = defineProps<{ doc: Doc; cuts?: boolean }>()
const emit = defineEmits<{ close: []; go: [seconds: number]; show: [media: string, first: WordRef, last: WordRef]; closer: [first: WordRef, last: WordRef] }>()

const over = ref<'words' | 'cuts'>(props.cuts ? 'cuts' : 'words')
const query = useQuery({
  queryKey: ['suggestions', props.doc.id, props.doc.version, over],
  queryFn: () => got(api.GET('/api/documents/{document_id}/suggestions', { params: { path: { document_id: props.doc.id }, query: { edition: props.doc.edition, over: over.value } } })),
  staleTime: Infinity,
})
const id = props.doc.id
const all = computed(() => query.data.value ?? [])
const at = ref(0)
const laid = reactive(new Map<number, string>()) // what was chosen, by stretch
const list = ref<HTMLElement | null>(null)
const { take, taking } = useTaking(async () => {})

function walk(by: number) {
  at.value = Math.min(Math.max(at.value + by, 0), all.value.length - 1)
  const now = all.value[at.value]
  if (now) emit('go', now.start + 0.01)
  void nextTick(() => list.value?.querySelector('.now')?.scrollIntoView({ block: 'nearest' }))
}

async function choose(n: number) {
  const here = at.value
  const now = all.value[here]
  const thing = now?.things[n]
  if (!now || !thing || taking.value) return
  const key = 'ready' in thing ? thing.key : (await take(thing))?.key
  if (!key || props.doc.id !== id) return
  emit('show', key, now.first, now.last)
  laid.set(here, thing.name)
  if (at.value === here) walk(1)
}

/** What follows the cut becomes a shot of its own. */
function closer() {
  const shot = all.value[at.value]?.shot
  if (!shot) return
  emit('closer', shot[0], shot[1])
  laid.set(at.value, 'a zoom')
  walk(1)
}

watch(over, () => {
  at.value = 0
  laid.clear()
})

const heading = ref<HTMLElement | null>(null)
useCommands(() => [
  { id: 'close-suggest', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'suggest-next', label: 'The next words', keys: ['Down'], run: () => walk(1) },
  { id: 'suggest-before', label: 'The words before', keys: ['Up'], run: () => walk(-1) },
  ...[0, 1, 2].map((n) => ({ id: `suggest-${n + 1}`, label: `Show the ${['first', 'second', 'third'][n]} of them`, keys: [String(n + 1)], run: () => void choose(n) })),
  { id: 'suggest-closer', label: 'A closer view from this cut on', keys: ['4'], enabled: () => !!all.value[at.value]?.shot, run: closer },
])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Suggested b-roll">
    <header>
      <h2 ref="heading" tabindex="-1">{{ over === 'cuts' ? 'Hide jump cuts' : 'Suggested b-roll' }}</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <el-radio-group v-model="over" size="small" aria-label="Over what">
      <el-radio-button value="words">Everything said</el-radio-button>
      <el-radio-button value="cuts">Jump cuts</el-radio-button>
    </el-radio-group>
    <p class="quiet">1, 2 or 3 places that picture and goes on; {{ over === 'cuts' ? '4 zooms in after the cut; ' : '' }}the arrows skip.</p>
    <p v-if="query.isPending.value" role="status" class="quiet">Looking for pictures…</p>
    <p v-else-if="query.error.value" class="alarm" role="alert">{{ query.error.value.message }}</p>
    <p v-else-if="!all.length" class="quiet">{{ over === 'cuts' ? 'There are no jump cuts in this clip.' : 'Nothing is said in this clip.' }}</p>
    <ol ref="list">
      <li v-for="(each, n) in all" :key="n" :class="{ now: n === at }" data-test="stretch">
        <button class="said" @click="walk(n - at)">
          <span class="time quiet">{{ clock(each.start) }}</span>
          <span>{{ each.text }}</span>
        </button>
        <span v-if="laid.has(n)" class="state">Shows {{ laid.get(n) }}</span>
        <span v-else-if="each.covered" class="state quiet">{{ over === 'cuts' ? 'Hidden already' : 'Has b-roll already' }}</span>
        <div v-if="n === at && each.things.length" class="things">
          <span v-for="(thing, k) in each.things" :key="thing.id" v-loading="taking === thing.id"><ShelfCard :item="(thing as Asset | StockItem)" @pick="choose(k)" /><kbd>{{ k + 1 }}</kbd></span>
        </div>
        <p v-else-if="n === at" class="quiet">Neither your Shelf nor the library has something that shows this.</p>
        <el-button v-if="n === at && each.shot" size="small" class="closer" @click="closer">Zoom in from here <kbd>4</kbd></el-button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 8px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 13px; }
ol { margin: 0; padding: 0; list-style: none; }
li { display: flex; flex-direction: column; gap: 6px; padding: 8px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; }
li.now { border-left-color: var(--pencil); background: var(--paper-2); }
.said { display: grid; grid-template-columns: 56px 1fr; gap: 6px; padding: 0; border: 0; background: none; font-size: 14px; text-align: left; cursor: pointer; }
.state { font-size: 13px; color: var(--moss); }
.state.quiet { color: var(--ink-2); }
.things { display: grid; grid-template-columns: 1fr 1fr 1fr; gap: 6px; }
.things > span { position: relative; display: grid; min-width: 0; }
.closer { align-self: flex-start; }
.closer kbd { position: static; margin-left: 6px; }
kbd { position: absolute; top: 6px; left: 6px; padding: 0 5px; background: var(--paper); font: 12px var(--mono); pointer-events: none; }
</style>
