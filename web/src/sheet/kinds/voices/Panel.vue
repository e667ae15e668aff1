<script setup lang="ts">
import type { Content, Doc } from '@/document/useDocument'

type Voices = Extract<Content, { kind: 'voices' }>

/** How loud each speaker is: by how many dB what they say is raised or lowered, as it is computed or as a person has it. */
const props = defineProps<{ content: Voices; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const given = (speaker: string) => props.content.amounts?.find((each) => each.speaker === speaker)?.volume ?? null
const now = (speaker: string, evened: number) => given(speaker) ?? (props.content.even ? evened : 0)

/** Give a speaker a volume of their own; null takes it back. */
function set(speaker: string, volume: number | null) {
  const others = (props.content.amounts ?? []).filter((each) => each.speaker !== speaker)
  emit('change', { ...props.content, amounts: volume === null ? others : [...others, { speaker, volume }] })
}
</script>

<template>
  <div v-for="each in doc.voices" :key="each.speaker" class="voice" data-test="voice">
    <label>
      <span><b>{{ each.name }}</b> <span class="quiet">recorded at {{ each.lufs.toFixed(1) }} LUFS</span></span>
      <el-slider :model-value="now(each.speaker, each.evened)" :min="-12" :max="12" :step="0.5" :aria-label="`Volume of ${each.name} (dB)`" @change="set(each.speaker, $event as number)" />
    </label>
    <span class="time">{{ now(each.speaker, each.evened) > 0 ? '+' : '' }}{{ now(each.speaker, each.evened).toFixed(1) }} dB</span>
    <el-button v-if="given(each.speaker) !== null" size="small" text @click="set(each.speaker, null)">Automatic</el-button>
  </div>
  <p v-if="!doc.voices.length" class="quiet">Only one speaker is known in this clip. Name the speakers on the recording's page, then each has a volume here.</p>
</template>

<style scoped>
.voice { display: grid; grid-template-columns: 1fr 64px auto; gap: 4px 12px; align-items: end; width: 100%; }
label { display: grid; padding: 0 8px; }
.time { padding-bottom: 8px; text-align: right; }
p { margin: 0; font-size: 13px; }
</style>
