<script setup lang="ts">
import { ref } from 'vue'
import type { Choices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { useStyleChange, type ChooseStyle } from './useStyleChange'
import { within, type Limits } from '@/stage/seen'

/** On the stage: drag the captions up or down to where they are to stand in the safe area. */
const props = defineProps<{ doc: Doc; choices: Choices; chooseStyle: ChooseStyle }>()

const FREE = 0.85 // of the safe area: about what captions of two lines leave of it
const { now, changed } = useStyleChange(() => props.doc.sheet, () => props.choices, (...of) => props.chooseStyle(...of))
const moved = ref<number | null>(null)
const drag = usePointerDrag()

function begin(event: PointerEvent) {
  const area = event.currentTarget as HTMLElement
  const [from, before, tall] = [event.clientY, now.value!.height!, area.getBoundingClientRect().height * FREE]
  const move = (to: PointerEvent) => (moved.value = within(before + (to.clientY - from) / tall, props.choices.style_fields.letters!.height as Limits))
  drag(event, move, (kept) => {
    if (kept && moved.value !== null) changed({ ...now.value!, height: moved.value })
    moved.value = null
  })
}
</script>

<template>
  <div v-if="now" class="handle" title="Drag the captions up or down" data-test="caption-handle" @pointerdown.prevent="begin">
    <span v-if="moved !== null" class="line" :style="{ top: `${moved * 100}%` }"><output>{{ Math.round(moved * 100) }} % down</output></span>
  </div>
</template>

<style scoped>
.handle { position: absolute; border: 1px dashed transparent; cursor: ns-resize; touch-action: none; }
.handle:hover { border-color: var(--pencil); }
.line { position: absolute; right: 0; left: 0; height: 2px; background: var(--pencil); }
output { position: absolute; top: 4px; left: 4px; padding: 1px 6px; background: var(--paper); font: 12px var(--mono); }
</style>
