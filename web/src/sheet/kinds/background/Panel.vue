<script setup lang="ts">
import { computed, inject, onMounted, ref, watch } from 'vue'
import { ElMessage } from 'element-plus'
import FieldsForm from '@/shared/FieldsForm.vue'
import ShelfPicker from '@/shelf/ShelfPicker.vue'
import type { Content, Doc } from '@/document/useDocument'
import { useBackground } from '@/recordings/useBackground'
import { usePointerDrag } from '@/shared/usePointerDrag'
import { SAVED } from '../saved'
import { useScreen, type Place } from './useScreen'

type Background = Extract<Content, { kind: 'background' }>
type Part = Pick<Required<Background>, 'left' | 'top' | 'right' | 'bottom'>

/** The screen as it was filmed, to pick its colour and to draw the frame in which it is; and what is seen in its place. */
const props = defineProps<{ content: Background; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content]; try: [content: Content] }>()

const set = (part: Partial<Background>) => emit('change', { ...props.content, ...part })
const screen = useScreen(props, (colour) => set(colour))
const { seen, told, places, asking, source } = screen
const saved = inject(SAVED, ref(undefined))
const isPicked = computed(() => (['blue', 'red'] as const).some((each) => props.content[each] !== (props.fields[each] as { default: number }).default))
onMounted(screen.look)
watch(seen, (now, before) => { if (now && !before && !isPicked.value) void screen.find() }) // what is laid anew
/** The picked colour as the page shows colours: BT.709. */
const swatch = computed(() => {
  const [light, blue, red] = [(props.content.light! - 16) / 219, (props.content.blue! - 128) / 224, (props.content.red! - 128) / 224]
  const [r, b] = [light + 1.5748 * red, light + 1.8556 * blue]
  return `rgb(${[r, (light - 0.2126 * r - 0.0722 * b) / 0.7152, b].map((each) => Math.round(each * 255)).join(' ')})`
})

// Picking, and drawing the frame, on the same picture.
const drawing = ref(false)
const least = computed(() => (props.fields.right as { minimum: number }).minimum) // of the picture that a frame has
const drawn = ref<Part | null>(null)
const frame = computed<Part>(() => drawn.value ?? { left: props.content.left!, top: props.content.top!, right: props.content.right!, bottom: props.content.bottom! })
const framed = computed(() => frame.value.left > 0 || frame.value.top > 0 || frame.value.right < 1 || frame.value.bottom < 1)
const percent = (share: number) => `${share * 100}%`
const frameStyle = computed(() => ({ left: percent(frame.value.left), top: percent(frame.value.top), right: percent(1 - frame.value.right), bottom: percent(1 - frame.value.bottom) }))
const follow = usePointerDrag()
function press(event: PointerEvent) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const placeOf = (at: PointerEvent): Place => ({
    across: Math.min(Math.max((at.clientX - box.left) / box.width, 0), 1), down: Math.min(Math.max((at.clientY - box.top) / box.height, 0), 1),
  })
  if (!drawing.value) return void screen.pick(placeOf(event))
  const from = placeOf(event)
  const move = (now: PointerEvent) => {
    const to = placeOf(now), round = (share: number) => Math.round(share * 100) / 100
    drawn.value = { left: round(Math.min(from.across, to.across)), top: round(Math.min(from.down, to.down)), right: round(Math.max(from.across, to.across)), bottom: round(Math.max(from.down, to.down)) }
  }
  follow(event, move, (kept) => {
    const made = drawn.value
    drawn.value = null
    if (kept && made && made.right - made.left >= least.value && made.bottom - made.top >= least.value) set(made)
  })
}
const by = ref<Place>({ across: 0.1, down: 0.1 }) // a place, without a pointer
const PLACE = { across: { title: 'Across (%)', minimum: 0, maximum: 1, percent: true, slider: true }, down: { title: 'Down (%)', minimum: 0, maximum: 1, percent: true, slider: true } }

// What is seen in the place of the screen.
const behind = computed(() => {
  const field = props.fields.behind as { enum: NonNullable<Background['behind']>[]; labels: Record<string, string> }
  return field.enum.filter((each) => each !== 'what is below' || props.content.of === 'pictures over words').map((each) => [each, field.labels[each]!] as const)
})

const { recording, isKept, keeping, keepWith, takeOff } = useBackground(computed(() => seen.value?.media ?? null))
async function keep() {
  const wanted = (saved.value as Background | undefined) ?? props.content
  if (await keepWith(wanted)) ElMessage.success(`The clips of “${recording.value?.title}” have this background now, unless they have one of their own.`)
}
</script>

<template>
  <div class="background">
    <div class="picture" :class="{ drawing }" data-test="screen" @pointerdown.prevent="press">
      <img v-if="seen && seen.seconds === null" :src="source" alt="" draggable="false">
      <video v-else-if="seen" :key="source" :src="source" muted preload="auto" playsinline></video>
      <p v-else class="quiet">{{ told || 'Looking at the picture…' }}</p>
      <template v-if="seen">
        <i v-for="(each, n) in places" :key="n" class="place" :style="{ left: percent(each.across), top: percent(each.down) }"></i>
        <div v-if="framed || drawing" class="frame" :style="frameStyle"></div>
      </template>
    </div>
    <p class="quiet">{{ drawing ? 'Draw a frame around the screen: what is outside counts as screen.' : 'As filmed. Press on the green or blue screen, at several places: lit and in shadow.' }}</p>
    <div class="row">
      <span v-if="isPicked" class="swatch" :style="{ background: swatch }" role="img" aria-label="The screen's colour" title="The screen's colour"></span>
      <el-button size="small" :loading="asking" @click="screen.find">Find the screen</el-button>
      <el-button v-if="places.length" size="small" @click="screen.startOver">Start over ({{ places.length }})</el-button>
      <el-button size="small" :type="drawing ? 'primary' : undefined" :aria-pressed="drawing" @click="drawing = !drawing">Frame</el-button>
      <el-button v-if="framed" size="small" @click="set({ left: 0, top: 0, right: 1, bottom: 1 })">No frame</el-button>
    </div>
    <details>
      <summary>Pick and frame by numbers</summary>
      <FieldsForm :values="{ ...by }" :fields="PLACE" @change="by = $event as unknown as Place" @try="by = $event as unknown as Place" />
      <el-button size="small" :loading="asking" @click="screen.pick(by)">Pick there</el-button>
      <FieldsForm v-for="edge in ['left', 'top', 'right', 'bottom'] as const" :key="edge" :values="{ [edge]: content[edge] }" :fields="fields" :only="edge" @change="set($event)" />
    </details>
    <FieldsForm v-for="name in ['reach', 'softness', 'spill'] as const" :key="name" :values="{ [name]: content[name] }" :fields="fields" :only="name" @change="set($event)" @try="$emit('try', { ...content, ...$event } as Content)" />
    <h3>Background</h3>
    <el-radio-group :model-value="content.behind" size="small" aria-label="Background" @change="set({ behind: $event as Background['behind'] })">
      <el-radio-button v-for="[value, label] in behind" :key="value" :value="value">{{ label }}</el-radio-button>
    </el-radio-group>
    <FieldsForm v-if="content.behind === 'a colour'" :values="{ colour: content.colour }" :fields="fields" only="colour" @change="set($event)" @try="$emit('try', { ...content, ...$event } as Content)" />
    <template v-if="content.behind === 'a picture or film'">
      <FieldsForm :values="{ blur: content.blur }" :fields="fields" only="blur" @change="set($event)" @try="$emit('try', { ...content, ...$event } as Content)" />
      <details :open="!content.media" data-test="behind">
        <summary>{{ content.media ? 'Replace the picture or video' : 'Choose a picture or video' }}</summary>
        <ShelfPicker :chosen="content.media" @pick="set({ media: $event })" />
      </details>
    </template>
    <template v-if="recording && isPicked">
      <el-button v-if="isKept(content)" size="small" :loading="keeping" @click="takeOff">No longer for all clips of “{{ recording.title }}”</el-button>
      <el-button v-else size="small" :loading="keeping" @click="keep">Use it for all clips of “{{ recording.title }}”</el-button>
    </template>
  </div>
</template>

<style scoped>
.background { display: flex; flex-direction: column; gap: 10px; align-items: flex-start; width: 100%; }
.picture { position: relative; width: 100%; min-height: 60px; overflow: hidden; background: var(--paper-2); line-height: 0; cursor: crosshair; touch-action: none; }
.picture p { padding: 10px; line-height: 1.4; }
img, video { width: 100%; user-select: none; }
.place { position: absolute; width: 12px; height: 12px; margin: -6px 0 0 -6px; border: 2px solid var(--paper); border-radius: 50%; outline: 1px solid var(--ink); pointer-events: none; }
.frame { position: absolute; outline: 2px solid var(--paper); box-shadow: 0 0 0 2000px rgb(0 0 0 / 0.45); pointer-events: none; }
.swatch { width: 24px; height: 24px; border: 1px solid var(--rule); border-radius: 4px; }
.row { display: flex; flex-wrap: wrap; gap: 6px; }
.row .el-button, .background .el-button { margin: 0; }
p { margin: 0; font-size: 13px; }
h3 { margin: 4px 0 0; font-size: 14px; }
details { width: 100%; }
details[open] > * + * { margin-top: 8px; }
summary { font-size: 14px; cursor: pointer; }
.background :deep(.el-button) { max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
