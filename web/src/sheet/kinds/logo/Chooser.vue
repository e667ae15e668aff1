<script setup lang="ts">
import type { Content, Doc } from '@/document/useDocument'
import StickerPicker from '@/shelf/StickerPicker.vue'

/** Which picture a logo shows. */
const props = defineProps<{ content: Extract<Content, { kind: 'logo' }>; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()
</script>

<template>
  <StickerPicker said="" :chosen="content.media" @pick="emit('change', { ...props.content, media: $event })" />
</template>
