<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc } from '@/document/useDocument'
import PlacedHandle, { type Placed } from '@/stage/PlacedHandle.vue'
import { overlapping, type Limits } from '@/stage/seen'

/** On the stage: drag a sticker to where it is to be, or its corner to make it larger. */
const props = defineProps<{ layer: string; content: Extract<Content, { kind: 'sticker' }>; fields: Record<string, Limits>; doc: Doc }>()
defineOptions({ inheritAttrs: false }) // what other handles are given is not for the one inside
const emit = defineEmits<{ change: [content: Content] }>()

const shown = computed(() => props.doc.plan.picture?.find((each) => each.source.type === 'still' && each.source.clear && each.source.media === props.content.media))
const box = computed(() => {
  const crop = shown.value?.crop
  if (!crop) return
  const { width, height } = props.doc.plan
  const wide = props.content.size!
  return { x: props.content.across!, y: props.content.down!, width: wide, height: (wide * width * crop.height) / crop.width / height }
})
const placed = computed<Placed>(() => ({ x: props.content.across, y: props.content.down, scale: props.content.size, turn: props.content.turn }))
const limits = computed(() => ({ x: props.fields.across, y: props.fields.down, scale: props.fields.size }))

function set({ x, y, scale }: Placed) {
  const { across, down, size } = props.content
  emit('change', { ...props.content, across: x ?? across, down: y ?? down, size: scale ?? size })
}
</script>

<template>
  <PlacedHandle v-if="box" :content="placed" :drawn="content.size" :box="box" :limits="limits" :outlet="doc.outlet" :meets="(at) => overlapping(doc, layer, at)" keeps @change="set" />
</template>
