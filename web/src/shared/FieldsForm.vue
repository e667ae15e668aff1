<script setup lang="ts">
import { computed, watch } from 'vue'
import DraftSlider from './DraftSlider.vue'
import DraftText from './DraftText.vue'

/** A form of what the core describes: the names, limits and choices of its fields. */
interface Field {
  title?: string
  type?: string
  enum?: string[]
  const?: string
  minimum?: number
  maximum?: number
  maxLength?: number
  pattern?: string
  examples?: unknown[]
  anyOf?: Field[]
  default?: unknown
  slider?: boolean
  snaps?: number[] // places to which it is drawn on the stage
  percent?: boolean // a share, read in hundredths
  labels?: Record<string, string> // what its choices are called
  apart?: boolean // something else sets it
  when?: Record<string, unknown>[] // it matters only while other fields have these values, in one case or another
}

const props = defineProps<{ values: Record<string, unknown>; fields: Record<string, unknown>; only?: string /* one that is set apart from the form of all */ }>()
const emit = defineEmits<{ change: [values: Record<string, unknown>]; try: [values: Record<string, unknown>] /* while it is typed or drawn */ }>()

const shown = computed(() =>
  Object.entries(props.fields as Record<string, Field>).flatMap(([key, field]) => {
    if (field.const || (props.only ? key !== props.only : field.apart)) return [] // what kind it is
    if (field.when && !field.when.some(holds)) return []
    const kept = field.anyOf?.find((each) => each.type !== 'null')
    return [{ key, ...field, ...kept, title: field.title ?? key, optional: !!kept }]
  }),
)
const holds = (values: Record<string, unknown>) => Object.entries(values).every(([other, value]) => props.values[other] === value)
const isColour = (field: Field) => field.pattern?.startsWith('^#')
function step(field: Field): number {
  const range = (field.maximum ?? 1) - (field.minimum ?? 0)
  if (field.type === 'integer' || range > 20) return 1
  return range <= 2 ? 0.05 : 0.1
}
const called = (field: Field, choice: string) => field.labels?.[choice] ?? choice.charAt(0).toUpperCase() + choice.slice(1)
const SHORT = 16 // letters of all choices together that stand beside one another
const FEW = 6 // choices that are all seen at once
const isLong = (field: Field) => !!field.enum && field.enum.length <= FEW && field.enum.map((each) => called(field, each)).join('').length > SHORT
const isText = (field: Field) => field.type === 'string' && !field.enum && !isColour(field)
/** Where something stands is set by pixels, too. */
const slide = (field: Field) => (field.snaps ? 0.001 : field.percent ? 0.01 : 0.05)

/** What was changed and has not come back yet: a second change must not take back the first. */
let changed: Record<string, unknown> = {}
watch(() => JSON.stringify(props.values), () => (changed = {}))

function set(key: string, value: unknown) {
  if (value === undefined || value === props.values[key]) return
  changed[key] = value
  emit('change', { ...props.values, ...changed })
}

function tryOut(key: string, value: unknown) {
  emit('try', { ...props.values, ...changed, [key]: value })
}
</script>

<template>
  <div class="form">
    <div v-for="field in shown" :key="field.key" class="field" :class="{ across: isText(field) || isLong(field) }">
      <span :id="`field-${field.key}`" class="label">{{ field.title }}</span>
      <el-radio-group v-if="field.enum && field.enum.length <= FEW" :model-value="values[field.key] as string" :aria-labelledby="`field-${field.key}`" size="small" @change="set(field.key, $event)">
        <el-radio-button v-for="each in field.enum" :key="each" :value="each">{{ called(field, each) }}</el-radio-button>
      </el-radio-group>
      <el-select v-else-if="field.enum" :model-value="values[field.key] as string" :aria-label="field.title" size="small" @change="set(field.key, $event)">
        <el-option v-for="each in field.enum" :key="each" :value="each" :label="called(field, each)" />
      </el-select>
      <DraftSlider v-else-if="field.slider" :value="values[field.key] as number" :label="field.title" :percent="field.percent" :least="field.minimum" :most="field.maximum" :step="slide(field)" @keep="set(field.key, $event)" @move="tryOut(field.key, $event)" />
      <el-input-number
        v-else-if="field.type === 'number' || field.type === 'integer'" :model-value="values[field.key] as number" :min="field.minimum" :max="field.maximum" :step="step(field)"
        :aria-label="field.title" size="small" controls-position="right" @change="set(field.key, $event)"
      />
      <span v-else-if="isColour(field)" class="colour">
        <el-checkbox v-if="field.optional" :model-value="values[field.key] !== null" :aria-label="field.title" @change="set(field.key, $event ? field.examples?.[0] ?? '#20242b' : null)" />
        <input v-if="values[field.key] !== null" type="color" :value="values[field.key]" :aria-label="field.title" @input="tryOut(field.key, ($event.target as HTMLInputElement).value)" @change="set(field.key, ($event.target as HTMLInputElement).value)">
      </span>
      <el-checkbox v-else-if="field.type === 'boolean'" :model-value="values[field.key] as boolean" :aria-label="field.title" @change="set(field.key, $event)" />
      <DraftText v-else :value="values[field.key] as string ?? ''" :rows="2" :maxlength="field.maxLength" :aria-label="field.title" @keep="set(field.key, $event || (field.optional ? null : ''))" @type="tryOut(field.key, $event || (field.optional ? null : ''))" />
    </div>
  </div>
</template>

<style scoped>
.form { display: flex; flex-direction: column; gap: 8px; width: 100%; }
.field { display: grid; grid-template-columns: minmax(0, 2fr) minmax(0, 3fr); gap: 8px; align-items: center; }
.field.across { grid-template-columns: minmax(0, 1fr); gap: 3px; }
.field > .el-radio-group, .field > .el-select, .field > .el-input-number { width: 100%; }
.label { color: var(--ink-2); font-size: 13px; line-height: 1.25; }
.colour { display: flex; gap: 8px; align-items: center; }
textarea { width: 100%; padding: 6px 8px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font: inherit; resize: vertical; }
input[type='color'] { width: 44px; height: 28px; padding: 2px; border: 1px solid var(--rule); background: var(--paper); }
</style>
