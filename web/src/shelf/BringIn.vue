<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { ref } from 'vue'
import { useAssets, type AssetKind } from './useAssets'
import type { Asset } from './useShelf'

/** A button that brings files in. Of several none is `brought` at once: which one is wanted is not known. */
const props = withDefaults(defineProps<{ kind: AssetKind; accept: string; one?: boolean; test?: string }>(), { test: 'shelf-file' })
const emit = defineEmits<{ brought: [asset: Asset] }>()

const { bringIn } = useAssets(props.kind)
const chooser = ref<HTMLInputElement | null>(null)
const busy = ref(false)

async function taken() {
  const files = [...(chooser.value?.files ?? [])]
  chooser.value!.value = ''
  busy.value = true
  const made: Asset[] = []
  for (const file of files) {
    const asset = await bringIn(file).catch((problem: Error) => void ElMessage.error({ message: `${file.name}: ${problem.message}`, duration: 8000 }))
    if (asset) made.push(asset)
  }
  busy.value = false
  if (files.length === 1 && made[0]) emit('brought', made[0])
}
</script>

<template>
  <el-button size="small" :loading="busy" @click="chooser?.click()"><slot /></el-button>
  <input ref="chooser" type="file" :accept="accept" :multiple="!one" hidden :data-test="test" @change="taken">
</template>
