<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import type { BoardClip } from './narrowing'

/** By when clips are to be delivered, and who sees to them. */
const props = defineProps<{ clips: BoardClip[]; people: string[] }>()
const emit = defineEmits<{ close: []; agree: [wanted: Schemas['DutyWanted']] }>()
const KEEP = '\0'
const open = ref(true)
const same = <T,>(values: T[]) => (new Set(values).size === 1 ? values[0] : undefined)
const day = ref(same(props.clips.map((each) => each.due ?? '')) ?? '')
const person = ref(same(props.clips.map((each) => each.person)) ?? KEEP)
const touched = ref(false)

function keep() {
  emit('agree', {
    clips: props.clips.map((each) => each.id), due: day.value || null, no_day: touched.value && !day.value, person: person.value === KEEP ? null : person.value,
  })
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" append-to="main" data-own-keys :title="clips.length === 1 ? `“${clips[0]!.title}”` : `${clips.length} clips`" width="min(380px, 96vw)" @closed="emit('close')">
    <form id="duty" @submit.prevent="keep">
      <label>Due <input v-model="day" type="date" aria-label="Due" @input="touched = true"></label>
      <label>Person
        <select v-model="person" aria-label="Person who sees to it">
          <option v-if="person === KEEP" :value="KEEP">As they are</option>
          <option value="">Whoever made it</option>
          <option v-for="each in people" :key="each" :value="each">{{ each }}</option>
        </select>
      </label>
    </form>
    <template #footer>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="duty">Keep</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
label { display: grid; grid-template-columns: 80px 1fr; align-items: center; margin-bottom: 12px; }
input, select { padding: 4px 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); }
</style>
