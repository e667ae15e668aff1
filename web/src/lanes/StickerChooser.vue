<script setup lang="ts">
import StickerPicker from '@/components/StickerPicker.vue'
import { computed } from 'vue'
import type { Content, Doc } from '@/composables/useDocument'
import { saidOver } from './seen'

/** Which picture a sticker or a logo shows. */
const props = defineProps<{ content: Extract<Content, { kind: 'sticker' | 'logo' }>; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()
const said = computed(() => (props.content.kind === 'sticker' ? saidOver(props.doc, props.layer) : ''))
</script>

<template>
  <StickerPicker :said="said" :chosen="content.media" @pick="emit('change', { ...props.content, media: $event })" />
</template>
