<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, onBeforeUnmount, onMounted, ref, toRef } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import type { Ask, Doc } from '@/document/useDocument'

/** Where a piece begins and ends: by the words beyond its edges, by frames, to the sentence; heard in a loop. */
const props = defineProps<{ doc: Doc; piece: string }>()
const emit = defineEmits<{ close: []; ask: [ask: Ask]; remove: []; hear: [edge: 'start' | 'end' | null] }>()

const piece = toRef(props, 'piece')
const own = computed(() => props.doc.sheet.pieces?.find((each) => each.id === piece.value))
const beyond = useQuery({
  queryKey: ['beyond', computed(() => props.doc.id), piece, computed(() => props.doc.version)],
  queryFn: () => got(api.GET('/api/documents/{document_id}/pieces/{piece}/beyond', { params: { path: { document_id: props.doc.id, piece: piece.value } } })),
  enabled: () => !!own.value?.recording,
  placeholderData: (before) => before,
})
const edge = ref<'start' | 'end'>('start')
const looping = ref(false)
const heading = ref<HTMLElement | null>(null)

const trim = (more: Partial<Extract<Ask, { ask: 'trim' }>>) => emit('ask', { ask: 'trim', piece: piece.value, edge: edge.value, word: null, frames: 0, sentence: false, ...more })

function takeIn(side: 'start' | 'end', word: number) {
  edge.value = side
  trim({ edge: side, word })
}

function loop() {
  looping.value = !looping.value
  emit('hear', looping.value ? edge.value : null)
}

function turn(side: 'start' | 'end') {
  edge.value = side
  if (looping.value) emit('hear', side)
}

useCommands(() => [
  { id: 'close-trim', label: 'Close', keys: ['Escape'], run: () => emit('close') },
  { id: 'trim-earlier', label: 'The edge a frame earlier', keys: [','], run: () => trim({ frames: -1 }) },
  { id: 'trim-later', label: 'The edge a frame later', keys: ['.'], run: () => trim({ frames: 1 }) },
])
onMounted(() => heading.value?.focus())
onBeforeUnmount(() => emit('hear', null))
</script>

<template>
  <section v-if="own" class="drawer" aria-label="Trim">
    <header>
      <h2 ref="heading" tabindex="-1">Trim</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <el-radio-group :model-value="edge" size="small" aria-label="Edge to trim" @change="turn($event as 'start' | 'end')">
      <el-radio-button value="start">Beginning</el-radio-button>
      <el-radio-button value="end">End</el-radio-button>
    </el-radio-group>
    <template v-if="own.recording">
      <p class="quiet">Click a word to take in all up to it.</p>
      <p class="beyond" :class="{ other: edge !== 'start' }">
        <button v-for="word in beyond.data.value?.before" :key="word.id" @click="takeIn('start', word.id)">{{ word.text }}</button>
        <span v-if="!beyond.data.value?.before.length">The recording begins here.</span>
      </p>
      <p class="quiet">… this piece …</p>
      <p class="beyond" :class="{ other: edge !== 'end' }">
        <button v-for="word in beyond.data.value?.after" :key="word.id" @click="takeIn('end', word.id)">{{ word.text }}</button>
        <span v-if="!beyond.data.value?.after.length">The recording ends here.</span>
      </p>
      <el-button size="small" @click="trim({ sentence: true })">Extend to the sentence</el-button>
    </template>
    <div class="row">
      <el-button size="small" @click="trim({ frames: -1 })">1 frame earlier ( , )</el-button>
      <el-button size="small" @click="trim({ frames: 1 })">1 frame later ( . )</el-button>
    </div>
    <el-button size="small" :type="looping ? 'primary' : undefined" :aria-pressed="looping" @click="loop">
      {{ looping ? 'Stop the loop' : 'Loop around the cut' }}
    </el-button>
    <el-button size="small" :disabled="(doc.sheet.pieces?.length ?? 0) < 2" @click="$emit('remove')">Delete this piece</el-button>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 12px; align-items: flex-start; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; align-items: center; justify-content: space-between; width: 100%; }
h2:focus { outline: none; }
p { margin: 0; font-size: 14px; }
.beyond { font: 16px/1.6 var(--serif); color: var(--ink); }
.beyond.other { color: var(--ink-2); }
.beyond button { padding: 0 3px; border: 0; background: none; color: inherit; font: inherit; cursor: pointer; }
.beyond button:hover, .beyond button:focus-visible { background: var(--paper-2); color: var(--ink); }
.row { display: flex; flex-wrap: wrap; gap: 6px; }
.drawer .el-button { margin-left: 0; }
</style>
