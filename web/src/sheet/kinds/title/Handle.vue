<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { useCommands } from '@/commands/registry'
import type { Content, Doc } from '@/document/useDocument'
import { overlapping, within, type Limits } from '@/stage/seen'

type Title = Extract<Content, { kind: 'title' | 'slide' }>

/** On the stage: drag a title up or down, or write its words where they stand. */
const props = defineProps<{ content: Title; layer: string; fields: Record<string, Limits & { maxLength?: number }>; doc: Doc }>()
defineOptions({ inheritAttrs: false })
const emit = defineEmits<{ change: [content: Content] }>()

const box = computed(() => props.doc.bars.find((each) => each.layer === props.layer)?.box)
const down = ref(0) // so far it is dragged, in shares of the stage
const shown = computed(() => box.value && { left: box.value.left, top: box.value.top + down.value, width: box.value.width, height: box.value.height })
const style = computed(() => shown.value && Object.fromEntries(Object.entries(shown.value).map(([side, share]) => [side, `${share * 100}%`])))
const meets = computed(() => (down.value && shown.value ? overlapping(props.doc, props.layer, shown.value) : ''))
const written = ref<string | null>(null) // while it is being written
const field = ref<HTMLTextAreaElement | null>(null)

const follow = usePointerDrag()
function drag(event: PointerEvent) {
  if (written.value !== null || !box.value) return
  const tall = (event.currentTarget as HTMLElement).closest('.stage')!.getBoundingClientRect().height
  const from = event.clientY
  const move = (now: PointerEvent) => (down.value = (now.clientY - from) / tall)
  follow(event, move, (kept) => {
    if (kept && Math.abs(down.value) > 0.002) place(box.value!.top + down.value)
    down.value = 0
  })
}

/** Let its top be at a share of the stage: a title's height counts in what its own leaves free of the safe area. */
function place(top: number) {
  const { height, safe: [, above, , below] } = props.doc.outlet
  const free = height - above - below - box.value!.height * height
  emit('change', { ...props.content, height: within(free > 0 ? (top * height - above) / free : 0, { minimum: 0, maximum: 1 }) })
}

async function write() {
  written.value = props.content.text ?? ''
  await nextTick()
  field.value?.focus()
  field.value?.select()
}

function keep() {
  const text = written.value?.trim()
  written.value = null
  if (text && text !== props.content.text) emit('change', { ...props.content, text })
}

useCommands(() => [
  { id: 'title-write', label: 'Write the title where it stands', keys: ['Enter'], where: '[data-title-handle]', run: () => void write() },
  { id: 'title-up', label: 'The title up', keys: ['Up'], where: '[data-title-handle]', run: () => place(box.value!.top - 0.005) },
  { id: 'title-down', label: 'The title down', keys: ['Down'], where: '[data-title-handle]', run: () => place(box.value!.top + 0.005) },
  { id: 'title-keep', label: 'Keep what is written', keys: ['Enter'], where: '[data-title-field]', run: keep },
  { id: 'title-drop', label: 'Leave it as it was', keys: ['Escape'], where: '[data-title-field]', run: () => (written.value = null) },
])
</script>

<template>
  <div v-if="style" class="standing" :class="{ meets: !!meets }" :style="style">
    <div v-if="written === null" class="handle" tabindex="0" role="group" data-title-handle data-test="title-handle" aria-label="The title: Enter writes its words, arrows move it" title="Double-click to write here; drag up or down" @pointerdown.prevent="drag" @dblclick="write">
      <b v-if="meets">Over {{ meets }}</b>
    </div>
    <textarea v-else ref="field" v-model="written" data-title-field aria-label="Words of the title" :maxlength="fields.text?.maxLength" @blur="keep"></textarea>
  </div>
</template>

<style scoped>
.standing { position: absolute; }
.handle { width: 100%; height: 100%; border: 1px dashed var(--pencil); cursor: ns-resize; touch-action: none; }
.meets .handle { border-color: var(--alarm); }
b { position: absolute; top: 2px; left: 2px; padding: 1px 4px; background: var(--paper); color: var(--alarm); font-size: 11px; white-space: nowrap; pointer-events: none; }
textarea { box-sizing: border-box; width: 100%; min-width: 150px; height: 100%; min-height: 56px; padding: 4px 6px; border: 2px solid var(--pencil); background: var(--paper); color: var(--ink); font: 600 14px/1.3 var(--sans, inherit); text-align: center; resize: none; }
</style>
