<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc } from '@/document/useDocument'
import StickerPicker from '@/shelf/StickerPicker.vue'
import { saidOver } from '@/stage/seen'

/** Which picture a sticker shows; the emoji that fit what is said come first. */
const props = defineProps<{ content: Extract<Content, { kind: 'sticker' }>; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()
const said = computed(() => saidOver(props.doc, props.layer))
</script>

<template>
  <StickerPicker :said="said" :chosen="content.media" @pick="emit('change', { ...props.content, media: $event })" />
</template>
