<script setup lang="ts">
import { ref, watch } from 'vue'

/** Text that is kept when it is left: what comes from elsewhere while it is typed does not take it away. */
const props = defineProps<{ value: string; rows?: number /* lines; one, with Enter to leave it, unless it is told */ }>()
const emit = defineEmits<{ keep: [text: string] }>()

const text = ref(props.value)
let typing = false
watch(() => props.value, (value) => { if (!typing) text.value = value })

function keep() {
  typing = false
  if (text.value !== props.value) emit('keep', text.value)
}
</script>

<template>
  <textarea v-if="rows" v-model="text" :rows="rows" @input="typing = true" @change="keep"></textarea>
  <input v-else v-model="text" @input="typing = true" @change="keep" @keydown.enter="($event.target as HTMLElement).blur()">
</template>
