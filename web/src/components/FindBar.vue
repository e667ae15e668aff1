<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { search, timeIn, type Word } from '@/composables/transcript'

/** Finding words or a time on the page, and replacing words everywhere. */
const props = defineProps<{ words: Word[] }>()
const emit = defineEmits<{
  found: [places: [number, number][]]
  show: [words: Word[]]
  go: [seconds: number]
  replace: [find: string, put: string]
  close: []
}>()

const field = ref<HTMLInputElement | null>(null)
const text = ref('')
const put = ref('')
const at = ref(-1)
const places = computed(() => search(props.words, text.value))
const time = computed(() => timeIn(text.value))

watch(places, (now) => {
  at.value = -1
  emit('found', now)
})
onMounted(() => field.value?.focus())

function step(by: number) {
  if (time.value !== null) {
    emit('go', time.value)
    return
  }
  if (!places.value.length) return
  at.value = (at.value + by + places.value.length) % places.value.length
  if (at.value < 0) at.value = 0
  const [first, last] = places.value[at.value]!
  emit('show', props.words.slice(first, last + 1))
}

function close() {
  emit('found', [])
  emit('close')
}

defineExpose({ focus: () => field.value?.select() })
</script>

<template>
  <div class="find" role="search" @keydown.esc.stop="close">
    <input
      ref="field" v-model="text" placeholder="Find words, or a time such as 12:30" aria-label="Find" data-test="find"
      @keydown.enter.prevent="step($event.shiftKey ? -1 : 1)"
    />
    <span class="time quiet count" role="status">
      <template v-if="time !== null">Enter goes there</template>
      <template v-else-if="text.trim()">{{ places.length ? `${at < 0 ? '' : `${at + 1} of `}${places.length}` : 'Nothing' }}</template>
    </span>
    <el-button size="small" :disabled="!places.length" title="The one before (Shift+Enter)" @click="step(-1)">Previous</el-button>
    <el-button size="small" :disabled="!places.length" title="The next one (Enter)" @click="step(1)">Next</el-button>
    <input v-model="put" class="put" placeholder="Replace with" aria-label="Replace with" @keydown.enter.prevent="put.trim() && emit('replace', text, put)" />
    <el-button size="small" :disabled="!places.length || !put.trim()" @click="emit('replace', text, put)">Replace everywhere…</el-button>
    <el-button text size="small" aria-label="Close find" @click="close">Close</el-button>
  </div>
</template>

<style scoped>
.find { display: flex; gap: 8px; align-items: center; padding: 8px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); }
.find .el-button + .el-button { margin-left: 0; }
input { flex: 1.4; min-width: 0; padding: 4px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 14px; }
.put { flex: 1; }
.count { min-width: 62px; font-size: 12px; text-align: right; }
</style>
