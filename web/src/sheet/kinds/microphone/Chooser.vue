<script setup lang="ts">
import { computed } from 'vue'
import type { Content, Doc } from '@/document/useDocument'
import { camerasOf } from '../camera/cameras'

type Microphone = Extract<Content, { kind: 'microphone' }>

/** Which microphone is heard. */
const props = defineProps<{ content: Microphone; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()
const heard = computed(() => camerasOf(props.doc, 'has_sound'))
</script>

<template>
  <el-radio-group v-if="heard.length > 1" :model-value="content.camera" size="small" aria-label="Heard by" @change="emit('change', { ...content, camera: Number($event) })">
    <el-radio v-for="each in heard" :key="each.number" :value="each.number">{{ each.number }} {{ each.name }}</el-radio>
  </el-radio-group>
  <p v-else class="quiet">This talk has one microphone. Bring another one in on the desk of its recording, under Cameras.</p>
</template>

<style scoped>
.el-radio-group { display: flex; flex-direction: column; align-items: flex-start; }
p { margin: 0; font-size: 13px; }
</style>
