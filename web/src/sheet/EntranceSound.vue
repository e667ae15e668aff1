<script setup lang="ts">
import { computed } from 'vue'
import FieldsForm from '@/shared/FieldsForm.vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import SoundWave from '@/player/SoundWave.vue'
import type { Content, Doc } from '@/document/useDocument'

/** The sound that is heard once as something comes on screen. */
type Entering = Extract<Content, { effect?: string }>
const props = defineProps<{ content: Entering; fields: Record<string, unknown>; doc: Doc }>()
const emit = defineEmits<{ change: [content: Content] }>()

const source = computed(() => props.doc.sources.find((each) => each.id === props.content.effect))
const set = (part: Partial<Entering>) => emit('change', { ...props.content, ...part } as Content)
</script>

<template>
  <details data-test="entrance-sound">
    <summary>Sound at its entrance<span v-if="content.effect" class="quiet">: {{ source?.title ?? 'being prepared…' }}</span></summary>
    <div v-if="content.effect" class="now">
      <span class="wave"><SoundWave v-if="source" :recording="source.id" :ready="source.playable" /></span>
      <FieldsForm :values="{ effect_volume: content.effect_volume }" :fields="fields" only="effect_volume" @change="set($event)" />
      <el-button size="small" @click="set({ effect: '' })">No sound</el-button>
    </div>
    <ShelfPicker heard :chosen="content.effect" @pick="set({ effect: $event })" />
  </details>
</template>

<style scoped>
details { width: 100%; }
summary { font-size: 14px; cursor: pointer; }
.now { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; padding-top: 8px; }
.wave { width: 100%; height: 36px; border: 1px solid var(--rule); }
details > .shelf { padding-top: 8px; }
</style>
