<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { useQuery } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import RunningWords from '@/shared/RunningWords.vue'
import { played } from './played'
import type { Export } from './useExports'

type Word = Schemas['SaidWord']

/** The finished file in the full window, its words running along. What is to be changed is marked on the sheet from here. */
const props = defineProps<{ export: Export }>()
const emit = defineEmits<{ close: []; watched: [seconds: number]; mark: [word: Word, note: string]; go: [word: Word] }>()

const STEP = 5 // seconds that an arrow goes
const video = ref<HTMLVideoElement | null>(null)
const panel = ref<HTMLElement | null>(null)
const time = ref(0)
const playing = ref(false)
const words = useQuery({
  queryKey: ['export-words', props.export.id],
  queryFn: () => got(api.GET('/api/exports/{export_id}/words', { params: { path: { export_id: props.export.id } } })),
  staleTime: Infinity,
})
const all = computed(() => (words.data.value ?? []).flatMap((each) => each.words))
const here = computed(() => all.value.findLast((word) => word.ref && word.start <= time.value + 0.02) ?? null)

const tick = () => { time.value = video.value?.currentTime ?? 0 }
const seek = (to: number) => { if (video.value) video.value.currentTime = Math.min(Math.max(to, 0), props.export.seconds) }
const toggle = () => void (video.value?.paused ? video.value.play() : video.value?.pause())
const told = () => emit('watched', played(video.value?.played))
useEventListener(video, 'ended', told)

async function mark() {
  const word = here.value
  if (!word) return
  video.value?.pause()
  const answer = await ElMessageBox.prompt(`At “${word.text}”, ${clock(time.value)}`, 'What is to be changed?', {
    confirmButtonText: 'Mark it', cancelButtonText: 'Cancel', inputPattern: /\S/, inputErrorMessage: 'Write a few words.',
  }).catch(() => null)
  if (answer) emit('mark', word, (answer as { value: string }).value.trim().slice(0, 200))
}

const where = '[data-watch]'
useCommands(() => [
  { id: 'watch-close', label: 'Close', keys: ['Escape'], where, run: () => emit('close') },
  { id: 'watch-play', label: 'Play', keys: ['Space'], where, run: toggle },
  { id: 'watch-back', label: `${STEP} s back`, keys: ['Left'], where, run: () => seek(time.value - STEP) },
  { id: 'watch-on', label: `${STEP} s on`, keys: ['Right'], where, run: () => seek(time.value + STEP) },
  { id: 'watch-mark', label: 'Mark what is to be changed', keys: ['M'], where, enabled: () => !!here.value, run: () => void mark() },
  { id: 'watch-sheet', label: 'To this word on the sheet', keys: ['Enter'], where, enabled: () => !!here.value, run: () => emit('go', here.value!) },
])
onMounted(() => panel.value?.focus())
</script>

<template>
  <Teleport to="body">
    <div ref="panel" class="watch" role="dialog" aria-modal="true" :aria-label="`Watch back: ${props.export.outlet_name}`" tabindex="-1" data-own-keys data-watch>
      <div class="picture">
        <video
          ref="video" :src="`/api/exports/${props.export.id}/files/${props.export.output.kind ?? 'mp4'}`" playsinline autoplay
          @timeupdate="tick" @seeked="tick" @play="playing = true" @pause="playing = false" @click="toggle"
        ></video>
      </div>
      <aside aria-label="What is said">
        <header>
          <b>{{ props.export.outlet_name }}</b>
          <span class="time">{{ clock(time) }} / {{ clock(props.export.seconds) }}</span>
          <el-button size="small" @click="$emit('close')">Close</el-button>
        </header>
        <p v-if="words.error.value" class="alarm" role="alert">{{ words.error.value.message }}</p>
        <div class="words" tabindex="0" aria-label="Words"><RunningWords v-if="words.data.value" :paragraphs="words.data.value" :time="time" @go="seek" /></div>
        <input class="bar" type="range" aria-label="Where you are" :min="0" :max="props.export.seconds" step="0.1" :value="time" @input="seek(Number(($event.target as HTMLInputElement).value))">
        <footer>
          <el-button type="primary" @click="toggle">{{ playing ? 'Pause' : 'Play' }}</el-button>
          <el-button :disabled="!here" title="Mark what is to be changed (M)" @click="mark">Mark a change…</el-button>
          <el-button :disabled="!here" title="To this word on the sheet (Enter)" @click="here && $emit('go', here)">Go to the sheet</el-button>
        </footer>
      </aside>
    </div>
  </Teleport>
</template>

<style scoped>
.watch { position: fixed; inset: 0; z-index: 60; display: grid; grid-template-columns: minmax(0, 1fr) minmax(300px, 460px); background: var(--ink); }
.watch:focus { outline: none; }
.picture { display: grid; min-height: 0; place-items: center; }
video { max-width: 100%; height: 100vh; max-height: 100vh; cursor: pointer; }
aside { display: flex; flex-direction: column; gap: 12px; min-height: 0; padding: 16px 20px; background: var(--paper); }
header, footer { display: flex; flex: none; flex-wrap: wrap; gap: 8px; align-items: center; }
header b { flex: 1; }
footer .el-button { margin: 0; }
.words { flex: 1; min-height: 0; overflow-y: auto; }
.bar { width: 100%; accent-color: var(--pencil); }
@media (width < 760px) {
  .watch { grid-template: minmax(0, 1fr) minmax(0, 45vh) / minmax(0, 1fr); }
  video { width: 100%; height: 100%; max-height: 55vh; }
}
</style>
