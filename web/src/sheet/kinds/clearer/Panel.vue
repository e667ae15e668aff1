<script setup lang="ts">
import { onUnmounted, ref, watch } from 'vue'
import type { Content, Doc } from '@/document/useDocument'

type Clearer = Extract<Content, { kind: 'clearer' }>

/** Hearing the speech of the clip as it was recorded, at the same loudness, as long as that is asked for. */
const props = defineProps<{ content: Clearer; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ try: [content: Content] }>()

const before = ref(false)
const hear = () => emit('try', before.value ? { ...props.content, strength: 'off' } : props.content)
watch(() => props.content.strength, () => (before.value = false))
onUnmounted(() => before.value && emit('try', props.content))
</script>

<template>
  <el-radio-group v-model="before" size="small" aria-label="Hear" @change="hear">
    <el-radio-button :value="false">Hear it clearer</el-radio-button>
    <el-radio-button :value="true">Hear it as recorded</el-radio-button>
  </el-radio-group>
  <p class="quiet">Both are played equally loud. For a recording as a whole it is set on its page, under Sound.</p>
</template>

<style scoped>
p { margin: 0; font-size: 13px; }
</style>
