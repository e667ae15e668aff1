<script setup lang="ts">
import StickerPicker from '@/components/StickerPicker.vue'
import type { Content } from '@/composables/useDocument'

/** Which picture a sticker or a logo shows. */
const props = defineProps<{ content: Extract<Content, { kind: 'sticker' | 'logo' }> }>()
const emit = defineEmits<{ change: [content: Content] }>()
</script>

<template>
  <StickerPicker :chosen="content.media" @pick="emit('change', { ...props.content, media: $event })" />
</template>
