<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'

/**
 * Words being corrected in place. Enter keeps the correction, Escape drops it; Tab, and arrows beyond
 * an edge, keep it and go to the next word; Backspace at the very beginning joins with the word before.
 */
const props = defineProps<{ text: string }>()
const emit = defineEmits<{ keep: [text: string, step: number]; drop: []; join: [text: string, step: -1 | 1] }>()

const field = ref<HTMLInputElement | null>(null)
const length = ref(props.text.length)
const width = computed(() => `${Math.max(length.value, 2) + 1}ch`)
let left = false

onMounted(() => {
  field.value!.value = props.text
  field.value!.focus()
  field.value!.select()
})

function keep(step: number) {
  if (left) return
  left = true
  emit('keep', field.value!.value, step)
}

function press(event: KeyboardEvent) {
  const input = field.value!
  const none = input.selectionStart === input.selectionEnd
  const first = none && input.selectionStart === 0
  const last = none && input.selectionEnd === input.value.length
  if (event.key === 'Enter') keep(0)
  else if (event.key === 'Tab') keep(event.shiftKey ? -1 : 1)
  else if (event.key === 'ArrowRight' && last) keep(1)
  else if (event.key === 'ArrowLeft' && first) keep(-1)
  else if (event.key === 'Escape') {
    left = true
    emit('drop')
  } else if ((event.key === 'Backspace' && first) || (event.key === 'Delete' && last)) {
    left = true
    emit('join', input.value, event.key === 'Backspace' ? -1 : 1)
  } else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <input
    ref="field" class="edit" :style="{ width }" aria-label="Correct this word" spellcheck="true" autocomplete="off"
    @keydown="press" @input="length = field!.value.length" @blur="keep(0)" @pointerdown.stop
  />
</template>

<style scoped>
.edit { margin: -3px; padding: 1px 2px; border: 1px solid var(--pencil); border-radius: 3px; background: #fff; color: var(--ink); font: inherit; line-height: 1.3; max-width: 100%; }
</style>
