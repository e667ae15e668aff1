<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, toRef } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tellError } from '@/shared/tell'

type Term = Schemas['Term']

/** Names & terms of a recording or its show: how they are written, and what was heard in their place. */
const props = defineProps<{ recordingId: string }>()
const emit = defineEmits<{ review: [] }>()

const client = useQueryClient()
const id = toRef(props, 'recordingId')
const path = computed(() => ({ params: { path: { recording_id: id.value } } }))
const terms = useQuery({ queryKey: ['terms', id], queryFn: () => got(api.GET('/api/recordings/{recording_id}/terms', path.value)) })
const text = ref('')
const heard = ref('')

async function change(work: Promise<Schemas['Terms']>) {
  try {
    client.setQueryData(['terms', id.value], await work)
  } catch (error) {
    tellError(error)
  }
}

async function add() {
  if (!text.value.trim()) return
  await change(got(api.POST('/api/recordings/{recording_id}/terms', { ...path.value, body: { text: text.value, heard: heard.value } })))
  text.value = heard.value = ''
}

function without(term: Term, heard = '') {
  return change(got(api.POST('/api/recordings/{recording_id}/terms/remove', { ...path.value, body: { text: term.text, heard } })))
}
</script>

<template>
  <section class="terms">
    <p class="quiet">
      <template v-if="terms.data.value?.show">Kept with the show <b>{{ terms.data.value.show }}</b>: new recordings in it are listened to with these in mind.</template>
      <template v-else>Kept with this recording. Put it into a show, and they hold for all recordings there.</template>
    </p>
    <ul v-if="terms.data.value?.terms.length">
      <li v-for="term in terms.data.value.terms" :key="term.text">
        <span><b>{{ term.text }}</b>
          <span v-if="term.heard.length" class="quiet"> often misheard as
            <button v-for="form in term.heard" :key="form" class="form" :title="`Forget “${form}”`" @click="without(term, form)">{{ form }} ×</button>
          </span>
        </span>
        <el-button text size="small" :aria-label="`Remove ${term.text}`" @click="without(term)">Remove</el-button>
      </li>
    </ul>
    <p v-else-if="terms.data.value" class="quiet">None yet. Add the names people and places in your recordings have, as they should be written.</p>
    <form @submit.prevent="add">
      <input v-model="text" placeholder="Name or term" aria-label="Name or term" maxlength="120" />
      <input v-model="heard" placeholder="Often misheard as" aria-label="Often misheard as" maxlength="120" />
      <el-button size="small" native-type="submit" :disabled="!text.trim()">Add</el-button>
    </form>
    <el-button :disabled="!terms.data.value?.terms.length" @click="emit('review')">Correct in this recording…</el-button>
  </section>
</template>

<style scoped>
p { margin: 4px 0 10px; font-size: 14px; }
ul { margin: 0 0 8px; padding: 0; list-style: none; }
li { display: flex; gap: 8px; align-items: center; justify-content: space-between; padding: 3px 0; border-bottom: 1px solid var(--rule); font-size: 14px; }
.form { margin: 1px 4px 1px 0; padding: 0 6px; border: 1px solid var(--rule); border-radius: 10px; background: none; color: var(--ink-2); font-size: 13px; cursor: pointer; }
form { display: flex; gap: 6px; margin-bottom: 12px; }
input { flex: 1; min-width: 0; padding: 3px 8px; border: 1px solid var(--rule); border-radius: 4px; background: #fff; color: var(--ink); font-size: 13px; }
</style>
