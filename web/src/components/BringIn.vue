<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { ref } from 'vue'
import { useAssets, type AssetKind } from '@/composables/useAssets'

/** A button that brings files in. Of several none is `brought` at once: which one is wanted is not known. */
const props = defineProps<{ kind: AssetKind; accept: string }>()
const emit = defineEmits<{ brought: [key: string] }>()

const { bringIn } = useAssets(props.kind)
const chooser = ref<HTMLInputElement | null>(null)
const busy = ref(false)

async function taken() {
  const files = [...(chooser.value?.files ?? [])]
  chooser.value!.value = ''
  busy.value = true
  let first = ''
  for (const file of files) {
    const made = await bringIn(file).catch((problem: Error) => void ElMessage.error({ message: `${file.name}: ${problem.message}`, duration: 8000 }))
    if (made) first ||= made.key
  }
  busy.value = false
  if (files.length === 1 && first) emit('brought', first)
}
</script>

<template>
  <el-button size="small" :loading="busy" @click="chooser?.click()"><slot /></el-button>
  <input ref="chooser" type="file" :accept="accept" multiple hidden data-test="shelf-file" @change="taken">
</template>
