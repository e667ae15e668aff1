<script setup lang="ts">
import { ElMessage, ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { useFonts } from '@/composables/useFonts'

/** The font of a style: one of everybody's, or one that the workspace has brought in. */
const props = defineProps<{ font: string; everybodys: Record<string, string> }>()
const emit = defineEmits<{ change: [font: string] }>()

const { fonts, bringIn, remove } = useFonts()
const own = computed(() => fonts.value.find((each) => each.key === props.font))
const chooser = ref<HTMLInputElement | null>(null)
const busy = ref(false)

async function taken() {
  const file = chooser.value?.files?.[0]
  if (!file) return
  chooser.value!.value = ''
  busy.value = true
  const made = await bringIn(file).catch((problem: Error) => void ElMessage.error({ message: problem.message, duration: 8000 }))
  busy.value = false
  if (!made) return
  ElMessage.success(`“${made.name}” is there for all styles now.`)
  emit('change', made.key)
}

async function take() {
  const { name, key } = own.value!
  const sure = await ElMessageBox.confirm(`Clips with “${name}” take another font in its place, and say so.`, `Delete “${name}”?`, { confirmButtonText: 'Delete', cancelButtonText: 'Keep' }).catch(() => null)
  if (!sure) return
  emit('change', Object.keys(props.everybodys)[0]!)
  await remove(key)
}
</script>

<template>
  <div class="font">
    <span id="style-font" class="label">Font</span>
    <el-radio-group :model-value="font" size="small" aria-labelledby="style-font" @change="$emit('change', $event as string)">
      <el-radio-button v-for="(name, key) in everybodys" :key="key" :value="key">{{ name }}</el-radio-button>
      <el-radio-button v-for="each in fonts" :key="each.key" :value="each.key">{{ each.name }}</el-radio-button>
    </el-radio-group>
    <span class="own">
      <el-button size="small" :loading="busy" @click="chooser?.click()">Bring in a font…</el-button>
      <el-button v-if="own" size="small" text @click="take">Delete “{{ own.name }}”</el-button>
    </span>
    <span v-if="own?.licence" class="label">{{ own.licence }}</span>
    <input ref="chooser" type="file" accept=".ttf,.otf,.woff,.woff2" hidden data-test="font-file" @change="taken">
  </div>
</template>

<style scoped>
.font { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; }
.label { color: var(--ink-2); font-size: 13px; }
</style>
