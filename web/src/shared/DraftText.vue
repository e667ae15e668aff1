<script setup lang="ts">
import { onBeforeUnmount } from 'vue'
import { useDraft } from './useDraft'

/** Text that is kept when it is left; one line, with Enter to leave it, unless it has `rows`. */
const props = defineProps<{ value: string; rows?: number }>()
const emit = defineEmits<{ keep: [text: string]; type: [text: string] }>()
const { draft, begin, keep } = useDraft(() => props.value, (text) => emit('keep', text))
function typed() {
  begin()
  emit('type', draft.value)
}
onBeforeUnmount(keep) // a panel that closes keeps what was typed
</script>

<template>
  <textarea v-if="rows" v-model="draft" :rows="rows" @input="typed" @change="keep"></textarea>
  <input v-else v-model="draft" @input="typed" @change="keep" @keydown.enter="($event.target as HTMLElement).blur()">
</template>
