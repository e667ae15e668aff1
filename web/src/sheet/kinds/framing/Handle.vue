<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc } from '@/document/useDocument'
import PlacedHandle from '@/stage/PlacedHandle.vue'
import PointHandle from '@/stage/PointHandle.vue'
import type { Limits, Seen } from '@/stage/seen'

type Framing = Extract<Content, { kind: 'framing' }>

/** On the stage: drag the picture to choose what of it stays. `seen` is what of it is seen now, by the content as `drawn`. */
const props = defineProps<{ content: Framing; drawn: Framing; seen: Seen | undefined; fields: Record<string, Limits>; doc: Doc; quiet?: boolean }>()
const emit = defineEmits<{ change: [content: Content]; pin: [content: Content] }>()

/** What moves by the picture's own measure moves with the pointer. */
const from = computed(() => (props.seen ? ([props.seen.across, props.seen.down] as const) : ([props.content.across ?? 0.5, props.content.down ?? 0.5] as const)))
const size = computed(() => (props.seen ? ([props.seen.wide, props.seen.high] as const) : ([0.5, 0.5] as const)))

/** One that follows a speaker goes on doing so; what was chosen by hand holds for the words that are seen. */
function moved(across: number, down: number) {
  const { content } = props
  if (content.mode === 'speaker') emit('pin', { ...content, mode: 'fill', across, down })
  else emit('change', { ...content, across, down })
}
</script>

<template>
  <PlacedHandle v-if="content.mode === 'by hand' && drawn.mode === 'by hand' && seen" :content="content" :drawn="drawn.scale" :box="seen.box" :limits="fields" :outlet="doc.outlet" @change="$emit('change', { ...content, ...$event })" />
  <PointHandle v-else-if="content.mode === 'fill' || content.mode === 'speaker'" :from="from" :size="size" :limits="fields" :quiet="quiet" @moved="moved" />
</template>
