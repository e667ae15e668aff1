<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tell, tellError } from '@/shared/tell'

/** What a sweep looks for, kept with the show: lists of words, and what is left of pauses. */
const props = defineProps<{ recordingId: string }>()
const emit = defineEmits<{ saved: [] }>()

const settings = ref<Schemas['SweepSettings'] | null>(null)
const pauseFrom = ref(0)
const pauseLeft = ref(0)
const fillers = ref('')
const phrases = ref('')
const path = { params: { path: { recording_id: props.recordingId } } }

const listed = (text: string) => [...new Set(text.split(/[,\n]/).map((each) => each.trim().toLowerCase()).filter(Boolean))]

function show(now: Schemas['SweepSettings']) {
  settings.value = now
  pauseFrom.value = now.pause_from
  pauseLeft.value = now.pause_left
  fillers.value = now.fillers.join(', ')
  phrases.value = now.phrases.join(', ')
}

onMounted(() => got(api.GET('/api/recordings/{recording_id}/sweep-settings', path)).then(show, tellError))

/** What changed in a list since it was read: somebody else may have changed it too. */
function listChange(before: string[], now: string[]) {
  return { add: now.filter((each) => !before.includes(each)), remove: before.filter((each) => !now.includes(each)) }
}

async function save() {
  const before = settings.value
  if (!before) return
  const body = {
    pause_from: pauseFrom.value,
    pause_left: pauseLeft.value,
    fillers: listChange(before.fillers, listed(fillers.value)),
    phrases: listChange(before.phrases, listed(phrases.value)),
  }
  try {
    show(await got(api.PATCH('/api/recordings/{recording_id}/sweep-settings', { ...path, body })))
    tell('Saved for this show.')
    emit('saved')
  } catch (error) {
    tellError(error)
  }
}
</script>

<template>
  <form v-if="settings" @submit.prevent="save">
    <span class="pauses">
      Shorten pauses longer than
      <input v-model.number="pauseFrom" type="number" min="0.3" max="10" step="0.1" required aria-label="Shorten pauses longer than, in seconds" /> s to
      <input v-model.number="pauseLeft" type="number" min="0.1" max="2" step="0.05" required aria-label="Shorten them to, in seconds" /> s
    </span>
    <label class="wide">Filler sounds <textarea v-model="fillers" rows="3"></textarea></label>
    <label class="wide">Filler phrases <textarea v-model="phrases" rows="3"></textarea></label>
    <el-button size="small" native-type="submit">Save</el-button>
  </form>
</template>

<style scoped>
form { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; font-size: 13px; }
.wide { width: 100%; }
input { width: 62px; padding: 2px 4px; }
textarea { display: block; width: 100%; font: 13px/1.4 var(--sans); }
input, textarea { border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); }
</style>
