<script setup lang="ts">
import type { Content } from '@/document/useDocument'
import PointHandle from '@/stage/PointHandle.vue'
import type { Limits } from '@/stage/seen'

/** On the stage: drag the picture to choose the point that it goes towards. */
const props = defineProps<{ content: Extract<Content, { kind: 'punch' }>; fields: Record<string, Limits> }>()
defineOptions({ inheritAttrs: false }) // what other handles are given is not for the one inside
const emit = defineEmits<{ change: [content: Content] }>()

const SIZE = [0.5, 0.5] as const // of the stage's own measure: so far a point moves across all of it
</script>

<template>
  <PointHandle :from="[content.across ?? 0.5, content.down ?? 0.5]" :size="SIZE" :limits="fields" @moved="(across, down) => emit('change', { ...props.content, toward: 'a point', across, down })" />
</template>
