<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue'
import DraftText from '@/shared/DraftText.vue'
import { tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import type { Content, Doc } from '@/document/useDocument'

type Narration = Extract<Content, { kind: 'narration' }>

/** What is read: typed or pasted, its first sentence heard before it is kept. */
const props = defineProps<{ content: Narration; doc: Doc; layer: string }>()
const emit = defineEmits<{ change: [content: Content] }>()

const choices = useChoices()
const most = computed(() => ((choices.value?.contents.narration?.properties as Record<string, { maxLength?: number }> | undefined)?.text?.maxLength))
const typed = ref<string | null>(null)
const text = computed(() => typed.value ?? props.content.text ?? '')
const FIRST = 600 // letters that surely hold the first sentence
const hearing = ref(false)
let sound: HTMLAudioElement | null = null

function keep(kept: string) {
  typed.value = null
  if (kept !== props.content.text) emit('change', { ...props.content, text: kept })
}

async function hear() {
  sound?.pause()
  hearing.value = true
  try {
    const asked = new URLSearchParams({ text: text.value.trim().slice(0, FIRST), narrator: props.content.narrator ?? 'natural', pace: String(props.content.pace ?? 1) })
    const answer = await fetch(`/api/narration/heard?${asked}`)
    if (!answer.ok) throw new Error(((await answer.json()) as { detail?: string }).detail)
    sound = new Audio(URL.createObjectURL(await answer.blob()))
    await sound.play()
  } catch (error) {
    tellError(error)
  } finally {
    hearing.value = false
  }
}
onBeforeUnmount(() => sound?.pause())
</script>

<template>
  <label class="text">
    <span class="quiet">Text to be read</span>
    <DraftText :value="content.text ?? ''" :rows="7" :maxlength="most" aria-label="Text to be read" placeholder="Type or paste what is to be said. Each sentence is spoken by itself, so a change costs only the sentence." @keep="keep" @type="typed = $event" />
    <span :class="text.length >= (most ?? Infinity) ? 'alarm' : 'quiet'">{{ text.length.toLocaleString() }} of {{ most?.toLocaleString() }} letters. {{ text.length >= (most ?? Infinity) ? 'What is longer is left out: put the rest into a second narration.' : 'It is spoken when you leave the field.' }}</span>
  </label>
  <el-button size="small" :loading="hearing" :disabled="!text.trim()" @click="hear">Hear the first sentence</el-button>
  <p v-if="choices && !choices.natural_voices" class="quiet">The natural voices are not installed here: choose a plain one, or run make setup again.</p>
</template>

<style scoped>
.text { display: flex; flex-direction: column; gap: 4px; width: 100%; font-size: 13px; }
textarea { width: 100%; box-sizing: border-box; padding: 6px 8px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font: inherit; font-size: 14px; line-height: 1.45; resize: vertical; }
p { margin: 0; font-size: 13px; }
</style>
