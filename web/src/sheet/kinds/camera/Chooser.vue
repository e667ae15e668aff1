<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc } from '@/document/useDocument'
import { camerasOf, momentOf } from './cameras'

type Camera = Extract<Content, { kind: 'camera' }>

/** All cameras as they are where this begins, to choose from. */
const props = defineProps<{ content: Camera; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()

const cameras = computed(() => camerasOf(props.doc))
const set = (camera: number) => emit('change', { ...props.content, camera })
const begins = computed(() => props.doc.bars.find((each) => each.layer === props.layer)?.start ?? 0)
const at = (camera: (typeof cameras.value)[number]) => momentOf(props.doc, camera, begins.value)
</script>

<template>
  <div v-if="cameras.length > 1" class="cameras" role="group" aria-label="Cameras">
    <button v-for="each in cameras" :key="each.number" :aria-pressed="each.number === content.camera" @click="set(each.number)">
      <video :src="`/api/recordings/${each.media}/files/working#t=${at(each).toFixed(2)}`" muted preload="metadata" playsinline></video>
      <span>{{ each.number }} {{ each.name }}</span>
    </button>
  </div>
  <p v-else class="quiet">This talk has one camera. Bring another one in on the desk of its recording, under Cameras.</p>
</template>

<style scoped>
.cameras { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
button { display: flex; flex-direction: column; gap: 4px; min-width: 0; padding: 4px; border: 2px solid var(--rule); border-radius: 4px; background: none; color: var(--ink); font: 13px var(--sans); text-align: left; cursor: pointer; }
button[aria-pressed='true'] { border-color: var(--pencil); }
video { width: 100%; aspect-ratio: 16 / 9; background: var(--ink); object-fit: cover; }
span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
p { margin: 0; font-size: 13px; }
</style>
