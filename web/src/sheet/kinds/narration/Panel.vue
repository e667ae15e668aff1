<script setup lang="ts">
import { computed } from 'vue'
import { api, got } from '@/api/client'
import { tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import type { Ask, Content, Doc } from '@/document/useDocument'

type Narration = Extract<Content, { kind: 'narration' }>

/** Titles in step with what is read, room of its own for it, and another try where it could not be spoken. */
const props = defineProps<{ content: Narration; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content]; ask: [ask: Ask] }>()

const choices = useChoices()
const bar = computed(() => props.doc.bars.find((each) => each.layer === props.layer))
/** It is not spoken, and nothing is done about that. */
const failed = computed(() => !!props.content.text?.trim() && bar.value?.lasts == null && bar.value?.first !== null && !props.doc.preparing)
const again = () => got(api.POST('/api/narration/{document_id}/again', { params: { path: { document_id: props.doc.id } } })).catch(tellError)
const room = () => emit('ask', { ask: 'give_room', layer: props.layer, seconds: bar.value!.lasts! })
</script>

<template>
  <p v-if="bar?.lasts" class="quiet">It takes <b class="time">{{ bar.lasts.toFixed(1) }} s</b>.</p>
  <el-button v-if="failed" size="small" @click="again">Speak again</el-button>
  <label class="titles">
    <span class="quiet">Its sentences as titles, in step</span>
    <el-select :model-value="content.template ?? ''" size="small" aria-label="Its sentences as titles" @change="$emit('change', { ...content, template: $event })">
      <el-option value="" label="No titles" />
      <el-option v-for="each in choices?.templates ?? []" :key="each.key" :value="each.key" :label="`${each.sort}: ${each.name}`" />
    </el-select>
  </label>
  <el-button v-if="bar?.lasts && !bar.whole" size="small" @click="room">Give it a pause of its own before these words</el-button>
</template>

<style scoped>
p { margin: 0; font-size: 13px; }
.titles { display: flex; flex-direction: column; gap: 4px; width: 100%; font-size: 13px; }
</style>
