<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc, Edit } from '@/document/useDocument'
import { edgesOf } from '@/stage/seen'

/** Where a sticker stands, by a click: at an edge of the safe area or in the middle; and what it stands in front of. */
const props = defineProps<{ content: Extract<Content, { kind: 'sticker' }>; doc: Doc; layer: string }>()
defineOptions({ inheritAttrs: false })
const emit = defineEmits<{ change: [content: Content]; edit: [edits: Edit[]] }>()

const box = computed(() => props.doc.bars.find((each) => each.layer === props.layer)?.box)
const MIDDLE = 0.5

function align(side: 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom') {
  if (!box.value) return
  const { width, height, safe: [left, top, right, bottom] } = props.doc.outlet
  const [before, after] = edgesOf(box.value.width, [left / width, 1 - right / width])
  const [above, below] = edgesOf(box.value.height, [top / height, 1 - bottom / height])
  const places = { left: before!.at, centre: MIDDLE, right: after!.at, top: above!.at, middle: MIDDLE, bottom: below!.at }
  const at = Math.round(places[side] * 1000) / 1000
  const along = side === 'left' || side === 'centre' || side === 'right'
  emit('change', { ...props.content, [along ? 'across' : 'down']: at })
}

/** Bring to front others is what was laid last; behind them, what all others were laid after. */
function order(where: 'front' | 'back') {
  const layers = props.doc.sheet.layers ?? []
  const moved = layers.filter((each) => (each.id === props.layer) === (where === 'front') && each.content.kind === 'sticker')
  emit('edit', moved.flatMap((layer) => [{ type: 'remove_layer' as const, layer: layer.id }, { type: 'put_layer' as const, layer }]))
}
const SIDES = [['left', 'Left'], ['centre', 'Centre'], ['right', 'Right'], ['top', 'Top'], ['middle', 'Middle'], ['bottom', 'Bottom']] as const
const others = computed(() => (props.doc.sheet.layers ?? []).some((each) => each.content.kind === 'sticker' && each.id !== props.layer))
</script>

<template>
  <div class="align" role="group" aria-label="Stand at">
    <span class="quiet">Align in the safe area</span>
    <el-button v-for="[side, name] in SIDES" :key="side" size="small" @click="align(side)">{{ name }}</el-button>
  </div>
  <div v-if="others" class="align two" role="group" aria-label="Order">
    <span class="quiet">Order</span>
    <el-button size="small" @click="order('front')">Bring to front</el-button>
    <el-button size="small" @click="order('back')">Send to back</el-button>
  </div>
</template>

<style scoped>
.align { display: grid; grid-template-columns: repeat(3, 1fr); gap: 6px; width: 100%; font-size: 13px; }
.two { grid-template-columns: 1fr 1fr; }
.align .el-button { margin: 0; }
.align span { grid-column: 1 / -1; }
</style>
