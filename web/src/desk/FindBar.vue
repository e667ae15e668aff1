<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, got } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { tellError } from '@/shared/tell'
import { timeIn, type Word } from '@/document/transcript'

/** Finding words or a time on the page, and replacing words everywhere. */
const props = defineProps<{ recordingId: string; words: Word[]; wordsAt: number }>()
const emit = defineEmits<{
  found: [places: [number, number][]]
  show: [words: Word[]]
  go: [seconds: number]
  replace: [find: string, put: string, parts: boolean]
  close: []
}>()

const field = ref<HTMLInputElement | null>(null)
const text = ref('')
const put = ref('')
const parts = ref(false)
const at = ref(-1)
const places = shallowRef<[number, number][] | null>(null)
const count = computed(() => places.value?.length ?? 0)
const time = computed(() => timeIn(text.value))

const look = useDebounceFn(async () => {
  const wanted = text.value.trim()
  if (!wanted || time.value !== null) {
    places.value = null
    return
  }
  try {
    const found = await got(api.GET('/api/recordings/{recording_id}/places', {
      params: { path: { recording_id: props.recordingId }, query: { text: wanted.slice(0, 200), parts: parts.value } } }))
    if (wanted === text.value.trim()) places.value = found as [number, number][]
  } catch (error) {
    tellError(error)
  }
}, 80)
watch([text, parts, () => props.wordsAt], () => void look())
watch(places, (now) => {
  at.value = -1
  emit('found', now ?? [])
})
onMounted(() => field.value?.focus())

async function step(by: number) {
  if (time.value !== null) {
    emit('go', time.value)
    return
  }
  if (!places.value) await look()
  const found = places.value
  if (!found?.length) return
  at.value = Math.max((at.value + by + found.length) % found.length, 0)
  const [first, last] = found[at.value]!
  emit('show', props.words.slice(first, last + 1))
}

function replace() {
  if (count.value && put.value.trim()) emit('replace', text.value, put.value, parts.value)
}

function close() {
  emit('found', [])
  emit('close')
}

useCommands(() => [{ id: 'close-find', label: 'Close find', keys: ['Escape'], where: '.find', run: close }])
defineExpose({ focus: () => field.value?.select() })
</script>

<template>
  <div class="find" role="search" data-own-keys>
    <input
      ref="field" v-model="text" placeholder="Find words, or a time such as 12:30" aria-label="Find" data-test="find"
      @keydown.enter.prevent="step($event.shiftKey ? -1 : 1)"
    />
    <span class="time quiet count" role="status">
      <template v-if="time !== null">Press Enter to jump</template>
      <template v-else-if="text.trim() && places">{{ count ? `${at < 0 ? '' : `${at + 1} of `}${count}` : 'Nothing' }}</template>
    </span>
    <label class="parts"><input v-model="parts" type="checkbox" /> Parts of words</label>
    <el-button size="small" :aria-disabled="!count" title="The one before (Shift+Enter)" @click="step(-1)">Previous</el-button>
    <el-button size="small" :aria-disabled="!count" title="The next one (Enter)" @click="step(1)">Next</el-button>
    <input v-model="put" class="put" placeholder="Replace with" aria-label="Replace with" @keydown.enter.prevent="replace" />
    <el-button size="small" :aria-disabled="!count || !put.trim()" @click="replace">Replace everywhere…</el-button>
    <el-button text size="small" aria-label="Close find" @click="close">Close</el-button>
  </div>
</template>

<style scoped>
.find { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; padding: 8px 20px; border-bottom: 1px solid var(--rule); background: var(--paper-2); }
.find .el-button + .el-button { margin-left: 0; }
.el-button[aria-disabled='true'] { color: #6d7380; }
input:not([type]) { flex: 1.4 1 120px; min-width: 0; padding: 4px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 14px; }
input.put { flex: 1 1 100px; }
.parts { font-size: 13px; white-space: nowrap; }
.count { min-width: 62px; font-size: 12px; text-align: right; }
</style>
