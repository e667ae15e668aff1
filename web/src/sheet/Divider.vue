<script setup lang="ts">
import { useCommands } from '@/commands/registry'
import { usePointerDrag } from '@/shared/usePointerDrag'

/** The edge between two parts of a page: dragged, or moved by the arrows; a double click gives back what is usual. */
const props = defineProps<{ size: number; label: string; upright: boolean }>()
const emit = defineEmits<{ resize: [size: number] }>()

const STEP = 24 // pixels by an arrow
const drag = usePointerDrag()

function begin(event: PointerEvent) {
  const from = props.upright ? event.clientX : event.clientY
  const before = props.size
  drag(event, (now) => emit('resize', before + (props.upright ? now.clientX : now.clientY) - from), () => {})
}

useCommands(() => [
  { id: 'divider-less', label: 'Smaller', keys: ['Left', 'Up'], where: '[data-divider]', run: () => emit('resize', props.size - STEP) },
  { id: 'divider-more', label: 'Larger', keys: ['Right', 'Down'], where: '[data-divider]', run: () => emit('resize', props.size + STEP) },
  { id: 'divider-usual', label: 'As large as usual', keys: ['Enter'], where: '[data-divider]', run: () => emit('resize', 0) },
])
</script>

<template>
  <div
    class="divider" :class="{ upright }" role="separator" tabindex="0" :aria-label="label" :aria-orientation="upright ? 'vertical' : 'horizontal'" :aria-valuenow="size"
    data-divider :title="`${label}: drag; double-click for the usual size`" @pointerdown.prevent="begin" @dblclick="$emit('resize', 0)"
  ></div>
</template>

<style scoped>
.divider { position: relative; z-index: 5; height: 7px; margin: -3px 0; border: 0; cursor: ns-resize; touch-action: none; }
.divider.upright { width: 7px; height: auto; margin: 0 -3px; cursor: ew-resize; }
.divider::after { position: absolute; inset: 3px 0; background: var(--rule); content: ''; }
.divider.upright::after { inset: 0 3px; }
.divider:hover::after, .divider:focus-visible::after { background: var(--pencil); }
.divider:focus-visible { outline: 2px solid var(--pencil); }
</style>
