<script setup lang="ts">
import { computed, ref } from 'vue'
import { usePointerDrag } from '@/shared/usePointerDrag'
import FieldsForm from '@/shared/FieldsForm.vue'
import { assetFile } from '@/api/files'
import type { Content, Doc } from '@/document/useDocument'
import { within, type Limits } from '@/stage/seen'

type Broll = Extract<Content, { kind: 'broll' }>
type End = 'from' | 'to'
interface Part { across: number; down: number; size: number }

/** The still, and drawn on it the part that is seen first and the one that is seen last: drag them, or their corners. */
const props = defineProps<{ content: Broll; fields: Record<string, unknown>; outlet: Doc['outlet'] }>()
const emit = defineEmits<{ change: [part: Partial<Broll>] }>()

const ENDS: [End, string][] = [['from', 'First'], ['to', 'Last']]
const chosen = ref<End>('to')
const box = ref<HTMLElement | null>(null)
const shape = ref(16 / 9) // of the still: its width to its height
const moved = ref<{ end: End; part: Part } | null>(null)

const kept = (end: End): Part => ({ across: props.content[`${end}_across`]!, down: props.content[`${end}_down`]!, size: props.content[`${end}_size`]! })
const partOf = (end: End) => (moved.value?.end === end ? moved.value.part : kept(end))
const limits = (name: keyof Part) => props.fields[`from_${name}`] as Limits
const fieldsOf = (end: End, { across, down, size }: Part): Partial<Broll> => ({ [`${end}_across`]: across, [`${end}_down`]: down, [`${end}_size`]: size })

/** Shares of the still that a part takes; it is never beyond the edges, however near to them its middle is set. */
const boxes = computed(() => ENDS.map(([end, name]) => {
  const part = partOf(end), output = props.outlet.width / props.outlet.height
  const [width, height] = [Math.min(1, output / shape.value), Math.min(1, shape.value / output)].map((most) => most * part.size) as [number, number]
  const left = Math.min(Math.max(part.across - width / 2, 0), 1 - width), top = Math.min(Math.max(part.down - height / 2, 0), 1 - height)
  const percent = (share: number) => `${share * 100}%`
  return { end, name, style: { left: percent(left), top: percent(top), width: percent(width), height: percent(height) }, middle: [left + width / 2, top + height / 2] as const, width }
}))

const follow = usePointerDrag()
function drag(event: PointerEvent, { end, middle, width }: (typeof boxes.value)[number], sizes: boolean) {
  chosen.value = end
  const frame = box.value!.getBoundingClientRect(), start = partOf(end)
  const move = (now: PointerEvent) => {
    const across = (now.clientX - event.clientX) / frame.width, down = (now.clientY - event.clientY) / frame.height
    const part = sizes
      ? { ...start, across: middle[0], down: middle[1], size: within((start.size * (width + 2 * across)) / width, limits('size')) }
      : { ...start, across: within(middle[0] + across, limits('across')), down: within(middle[1] + down, limits('down')) }
    moved.value = { end, part }
  }
  follow(event, move, (kept) => {
    if (kept && moved.value) emit('change', fieldsOf(end, moved.value.part))
    moved.value = null
  })
}
</script>

<template>
  <div ref="box" class="still" data-test="parts">
    <img :src="assetFile(content.media!)" alt="" draggable="false" @load="shape = ($event.target as HTMLImageElement).naturalWidth / ($event.target as HTMLImageElement).naturalHeight">
    <div v-for="each in boxes" :key="each.end" class="part" :class="[each.end, { chosen: each.end === chosen }]" :style="each.style" :data-test="`part-${each.end}`" @pointerdown.prevent="drag($event, each, false)">
      <b>{{ each.name }}</b>
      <span class="corner" title="Drag to show more or less of it" @pointerdown.prevent.stop="drag($event, each, true)"></span>
    </div>
  </div>
  <el-radio-group v-model="chosen" size="small" aria-label="Which part is set">
    <el-radio-button v-for="[end, name] in ENDS" :key="end" :value="end">{{ name }}</el-radio-button>
  </el-radio-group>
  <FieldsForm v-for="name in ['across', 'down', 'size']" :key="name" :values="{ [`${chosen}_${name}`]: partOf(chosen)[name as keyof Part] }" :fields="fields" :only="`${chosen}_${name}`" @change="$emit('change', $event)" />
</template>

<style scoped>
.still { position: relative; flex: none; width: 100%; overflow: hidden; line-height: 0; touch-action: none; }
img { width: 100%; user-select: none; }
.part { position: absolute; box-sizing: border-box; border: 2px solid var(--paper); outline: 1px solid var(--ink); cursor: grab; touch-action: none; }
.part.to { border-style: dashed; }
.part.chosen { z-index: 1; border-color: var(--pencil); }
b { position: absolute; top: 2px; left: 2px; padding: 2px 4px; background: var(--ink); color: var(--paper); font-size: 12px; line-height: 1; }
.to b { right: 2px; left: auto; }
.corner { position: absolute; right: -2px; bottom: -2px; width: 16px; height: 16px; background: var(--pencil); cursor: nwse-resize; touch-action: none; }
</style>
