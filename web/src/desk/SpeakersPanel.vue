<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import { clock } from '@/shared/format'
import { tellError } from '@/shared/tell'
import type { Transcript } from '@/document/transcript'
import type { Choices } from '@/shared/useChoices'
import type { Correction } from '@/document/useDocument'
import { active, type Job } from '@/shared/jobs'
import DraftText from '@/shared/DraftText.vue'
import JobLine from '@/shared/JobLine.vue'

/** Who speaks: named once, coloured, and given to words by a digit; the voices may make a suggestion. */
const props = defineProps<{ recordingId: string; transcript: Transcript; jobs: Job[]; choices: Choices }>()
const emit = defineEmits<{ correct: [correction: Correction]; give: [speaker: string]; started: []; cancel: [job: Job] }>()

const count = ref(0) // as many as are heard
const job = computed(() => props.jobs.find((each) => each.kind === 'speakers'))

const rows = computed(() => {
  const seconds = new Map<string, number>()
  let suggested = 0
  for (const word of props.transcript.words) {
    seconds.set(word.speaker, (seconds.get(word.speaker) ?? 0) + word.end - word.start)
    if (word.speaker_by === 'voices') suggested++
  }
  const known = props.transcript.speakers.map((speaker) => ({ ...speaker, seconds: seconds.get(speaker.key) ?? 0 }))
  return { known: known.sort((a, b) => Number(a.key.slice(1)) - Number(b.key.slice(1))), suggested }
})
const next = computed(() => `S${Math.max(0, ...rows.value.known.map((row) => Number(row.key.slice(1)) || 0)) + 1}`)

function name(speaker: string, text: string) {
  emit('correct', { type: 'name_speaker', speaker, name: text.trim() })
}

function colour(speaker: string, value: string) {
  emit('correct', { type: 'name_speaker', speaker, colour: value })
}

async function suggest() {
  try {
    await got(api.POST('/api/recordings/{recording_id}/speakers', { params: { path: { recording_id: props.recordingId } }, body: { count: count.value || null } }))
    emit('started')
  } catch (error) {
    tellError(error)
  }
}
</script>

<template>
  <section class="speakers">
    <p class="quiet">Select words, or click the time beside a paragraph, then press a speaker’s digit.</p>
    <ul>
      <li v-for="row in rows.known" :key="row.key">
        <button class="digit" :title="`Give the selected words to ${row.name} (${row.key.slice(1)})`" @click="emit('give', row.key)">{{ row.key.slice(1) }}</button>
        <el-popover trigger="click" :width="212" placement="bottom-start">
          <template #reference>
            <button class="swatch" :style="{ background: row.colour }" :aria-label="`Colour of ${row.name}`"></button>
          </template>
          <div class="palette">
            <button v-for="each in choices.speaker_colours" :key="each" class="swatch" :style="{ background: each }" :aria-label="each" @click="colour(row.key, each)"></button>
          </div>
        </el-popover>
        <DraftText :value="row.name" :aria-label="`Name of speaker ${row.key.slice(1)}`" maxlength="80" @keep="name(row.key, $event)" />
        <span class="time quiet">{{ clock(row.seconds, false) }}</span>
      </li>
    </ul>
    <el-button v-if="Number(next.slice(1)) <= 9" text size="small" @click="emit('correct', { type: 'name_speaker', speaker: next, name: '' })">
      Add a speaker
    </el-button>
    <h2 class="sub">Suggest from the voices</h2>
    <JobLine v-if="job && (active(job) || job.state === 'failed')" :job="job" name="Speakers" @cancel="emit('cancel', job)" @retry="suggest" />
    <div v-else class="suggest">
      <label>
        People who speak
        <el-select v-model="count" aria-label="People who speak" size="small">
          <el-option :value="0" label="As many as are heard" />
          <el-option v-for="n in choices.most_speakers" :key="n" :value="n" :label="String(n)" />
        </el-select>
      </label>
      <el-button size="small" @click="suggest">Suggest</el-button>
    </div>
    <p class="quiet small">
      <template v-if="rows.suggested">Names with a question mark are suggestions; give a paragraph its digit to settle it.</template>
      <template v-else>A suggestion never changes what you set by hand. It is surest when you say how many people speak.</template>
    </p>
  </section>
</template>

<style scoped>
p { margin: 4px 0 10px; font-size: 14px; }
.small { margin-top: 8px; font-size: 13px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; gap: 8px; align-items: center; padding: 4px 0; border-bottom: 1px solid var(--rule); }
.digit { width: 24px; height: 24px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper-2); font: 13px var(--mono); cursor: pointer; }
.swatch { flex: none; width: 18px; height: 18px; border: 0; border-radius: 50%; cursor: pointer; }
.palette { display: flex; gap: 6px; }
input { flex: 1; min-width: 0; padding: 3px 6px; border: 1px solid transparent; border-radius: 4px; background: none; color: var(--ink); }
input:hover, input:focus { border-color: var(--rule); background: #fff; }
.sub { margin-top: 14px; font-size: 14px; }
.suggest { display: flex; gap: 10px; align-items: end; justify-content: space-between; margin-top: 6px; font-size: 14px; }
.suggest label { display: grid; flex: 1; gap: 4px; }
</style>
