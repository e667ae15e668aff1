<script setup lang="ts">
import FieldsForm from '@/shared/FieldsForm.vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import type { Content, Doc } from '@/document/useDocument'
import TitlePanel from '@/sheet/kinds/title/Panel.vue'

type Slide = Extract<Content, { kind: 'slide' }>

/** How a slide looks, and what it stands on. */
const props = defineProps<{ content: Slide; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const set = (part: Partial<Slide>) => emit('change', { ...props.content, ...part })
</script>

<template>
  <div v-if="content.media" class="on">
    <FieldsForm :values="{ strength: content.strength }" :fields="fields" only="strength" @change="set($event)" />
    <el-button size="small" @click="set({ media: '' })">Remove the background picture</el-button>
  </div>
  <details data-test="on">
    <summary>{{ content.media ? 'Replace the background picture' : 'Background picture or video' }}</summary>
    <ShelfPicker :chosen="content.media" @pick="set({ media: $event })" />
  </details>
  <TitlePanel first="Slide" :content="content" :fields="fields" :doc="doc" :layer="layer" :time="time" @change="$emit('change', $event)" />
</template>

<style scoped>
.on { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; width: 100%; }
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
details > .shelf { padding-top: 8px; }
</style>
