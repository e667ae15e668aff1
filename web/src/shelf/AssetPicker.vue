<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { computed } from 'vue'
import { sureToDelete } from '@/shared/ask'
import { useAssets, type AssetKind } from './useAssets'
import type { Asset } from './useShelf'
import { useChoices } from '@/shared/useChoices'
import BringIn from './BringIn.vue'
import { faceOf } from './faces'

/** One of what everybody has (`others`, by key), or of what the workspace has brought in of a kind. */
const props = defineProps<{
  kind: AssetKind; chosen: string; others: Record<string, string>; label: string
  called: string // such as "a font"
  accept: string; instead: string // what clips take in the place of one that is deleted
}>()
const emit = defineEmits<{ change: [key: string] }>()

const choices = useChoices()
/** A font is shown in its own face. */
const face = (key: string) => (props.kind === 'font' ? { fontFamily: faceOf(key, choices.value?.style_font_files[key]), fontSize: '15px' } : undefined)

const { assets, remove } = useAssets(props.kind)
const own = computed(() => assets.value.find((each) => each.key === props.chosen))

function brought({ name, key }: Asset) {
  ElMessage.success(`“${name}” is there for all clips now.`)
  emit('change', key)
}

async function take() {
  const { name, key } = own.value!
  if (!(await sureToDelete(`Delete “${name}”?`, `Clips with “${name}” ${props.instead}, and say so.`))) return
  emit('change', Object.keys(props.others)[0]!)
  await remove(key)
}
</script>

<template>
  <div class="asset">
    <span :id="`asset-${kind}`" class="label">{{ label }}</span>
    <el-radio-group v-if="assets.length || Object.keys(others).length > 1" :model-value="chosen" size="small" :aria-labelledby="`asset-${kind}`" @change="$emit('change', $event as string)">
      <el-radio-button v-for="(name, key) in others" :key="key" :value="key"><span :style="face(key)">{{ name }}</span></el-radio-button>
      <el-radio-button v-for="each in assets" :key="each.key" :value="each.key" :disabled="!!each.refusal" :title="each.refusal"><span :style="face(each.key)">{{ each.name }}</span></el-radio-button>
    </el-radio-group>
    <span>
      <BringIn :kind="kind" :accept="accept" one :test="`${kind}-file`" @brought="brought">Bring in {{ called }}…</BringIn>
      <el-button v-if="own" size="small" text @click="take">Delete “{{ own.name }}”</el-button>
    </span>
    <span v-for="each in assets.filter((one) => one.refusal)" :key="each.key" class="label">“{{ each.name }}” may not be used: {{ each.refusal }}.</span>
    <span v-if="own?.licence" class="label">{{ own.licence }}</span>
  </div>
</template>

<style scoped>
.asset { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; }
.label { color: var(--ink-2); font-size: 13px; }
</style>
