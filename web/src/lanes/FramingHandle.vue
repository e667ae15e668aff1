<script setup lang="ts">
import { ref } from 'vue'
import { usePointerDrag } from '@/composables/usePointerDrag'
import type { Content, Doc } from '@/composables/useDocument'
import PlacedHandle from './PlacedHandle.vue'
import { within, type Limits, type Seen } from './seen'

/** On the stage: drag the picture to choose what of it stays. `seen` is what of it is seen now, by the content as `drawn`. */
const props = defineProps<{ content: Extract<Content, { kind: 'framing' | 'punch' }>; drawn: Content; seen: Seen | undefined; fields: Record<string, Limits>; doc: Doc }>()
const emit = defineEmits<{ change: [content: Content]; pin: [content: Content] }>()

const moved = ref<[number, number] | null>(null)
const drag = usePointerDrag()
/** What moves by the picture's own measure moves with the pointer; a point that is gone towards, by the stage's. */
const follows = () => props.content.kind === 'framing' && props.seen

function begin(event: PointerEvent) {
  const stage = event.currentTarget as HTMLElement
  const from = [event.clientX, event.clientY] as const
  const seen = follows()
  const before = seen ? [seen.across, seen.down] as const : [props.content.across ?? 0.5, props.content.down ?? 0.5] as const
  const [wide, high] = seen ? [seen.wide, seen.high] : [0.5, 0.5]
  const box = stage.getBoundingClientRect()
  const move = (now: PointerEvent) => {
    moved.value = [
      within(before[0] - ((now.clientX - from[0]) / box.width) * wide, props.fields.across),
      within(before[1] - ((now.clientY - from[1]) / box.height) * high, props.fields.down),
    ]
  }
  drag(event, move, (kept) => {
    if (kept && moved.value) done(moved.value)
    moved.value = null
  })
}

/** One that follows a speaker goes on doing so; what was chosen by hand holds for the words that are seen. */
function done([across, down]: [number, number]) {
  const { content } = props
  if (content.kind === 'framing' && content.mode === 'speaker') emit('pin', { ...content, mode: 'fill', across, down })
  else if (content.kind === 'punch') emit('change', { ...content, toward: 'a point', across, down })
  else emit('change', { ...content, across, down })
}
</script>

<template>
  <PlacedHandle v-if="content.kind === 'framing' && content.mode === 'by hand' && drawn.kind === 'framing' && drawn.mode === 'by hand' && seen" :content="content" :drawn="drawn.scale" :box="seen.box" :limits="fields" :outlet="doc.outlet" @change="$emit('change', { ...content, ...$event })" />
  <div v-else-if="content.kind === 'punch' || content.mode === 'fill' || content.mode === 'speaker'" class="handle" title="Drag the picture to what should stay" data-test="framing-handle" @pointerdown.prevent="begin">
    <span v-if="moved">{{ Math.round(moved[0] * 100) }} % across, {{ Math.round(moved[1] * 100) }} % down</span>
  </div>
</template>

<style scoped>
.handle { position: absolute; inset: 0; border: 2px solid var(--pencil); cursor: grab; touch-action: none; }
span { position: absolute; bottom: 6px; left: 6px; padding: 1px 6px; background: var(--paper); font: 12px var(--mono); }
</style>
