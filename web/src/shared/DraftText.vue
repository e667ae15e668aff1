<script setup lang="ts">
import { useDraft } from './useDraft'

/** Text that is kept when it is left; one line, with Enter to leave it, unless it has `rows`. */
const props = defineProps<{ value: string; rows?: number }>()
const emit = defineEmits<{ keep: [text: string] }>()
const { draft, begin, keep } = useDraft(() => props.value, (text) => emit('keep', text))
</script>

<template>
  <textarea v-if="rows" v-model="draft" :rows="rows" @input="begin" @change="keep"></textarea>
  <input v-else v-model="draft" @input="begin" @change="keep" @keydown.enter="($event.target as HTMLElement).blur()">
</template>
