<script setup lang="ts">
import { computed } from 'vue'
import AssetPicker from '@/components/AssetPicker.vue'
import FieldsForm from '@/components/FieldsForm.vue'
import type { Content, Doc } from '@/composables/useDocument'

type Framing = Extract<Content, { kind: 'framing' }>

/** What is behind a picture that does not cover the stage: one that the workspace brought in. */
const props = defineProps<{ content: Framing; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const strength = computed(() => ({ strength: { ...(props.fields.strength as object), apart: false } }))
const set = (part: Partial<Framing>) => emit('change', { ...props.content, ...part })
</script>

<template>
  <template v-if="content.mode === 'fit' || content.mode === 'by hand'">
    <AssetPicker
      kind="picture" :chosen="content.picture ?? ''" :others="{ '': 'None' }" label="Over a picture" called="a picture" accept=".png,.jpg,.jpeg,.webp"
      instead="stand over blur or a colour in its place" @change="set({ picture: $event })"
    />
    <FieldsForm v-if="content.picture" :values="{ strength: content.strength }" :fields="strength" @change="set($event)" />
  </template>
</template>
