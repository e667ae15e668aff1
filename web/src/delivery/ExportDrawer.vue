<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, toRef, watch } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import { sureToDelete } from '@/shared/ask'
import { clock, size } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import type { Fault } from '@/proof/useProof'
import { useExports, type Export, type Output } from './useExports'
import type { Schemas } from '@/api/client'
import PackageDialog from './PackageDialog.vue'
import WatchBack from './WatchBack.vue'
import JobLine from '@/shared/JobLine.vue'

type Word = Schemas['SaidWord']

const props = defineProps<{ doc: Doc; time: number; faults: Fault[] }>()
const emit = defineEmits<{ close: []; proof: []; post: []; cover: []; review: []; share: []; timeline: [file: File]; mark: [word: Word, note: string]; go: [word: Word] }>()
const choices = useChoices()
const heading = ref<HTMLElement | null>(null)
const watching = ref<Export | null>(null)
const starting = ref(false)
const TOLD = 3 // faults that are told here; the proof has all of them

const chosen = ref<string[]>(props.doc.editions.map((each) => each.id))
const kind = useStorage<NonNullable<Output['kind']>>('hovvet-export-kind', 'mp4')
const quality = useStorage<NonNullable<Output['quality']>>('hovvet-export-quality', 'good')
const lines = ref<Output['lines']>(null)
const seconds = ref(3)
const pattern = useStorage('hovvet-export-pattern', '')
const output = computed<Output>(() => ({ kind: kind.value, quality: quality.value, lines: lines.value, start: Math.round(props.time * 100) / 100, seconds: seconds.value }))
const isVideo = computed(() => kind.value === 'mp4' || kind.value === 'webm')
const isPart = computed(() => ['png', 'gif', 'webp'].includes(kind.value))
watch(() => props.doc.editions, (now) => { chosen.value = chosen.value.filter((id) => now.some((each) => each.id === id)) })

const wanted = computed(() => ({ editions: chosen.value, output: isPart.value ? output.value : { ...output.value, start: 0, seconds: 3 } }))
const { exports, expected, start, retry, remove, cancel, watched } = useExports(toRef(() => props.doc.id), toRef(() => props.doc.version), wanted)
/** What may not be shown, of the chosen editions: those of the one on the stage are faults, too. */
const stops = computed(() => expected.value.filter((each) => chosen.value.includes(each.edition)).flatMap((each) => each.stops.map((says) => ({ edition: each.edition, says }))))
const nameOf = (edition: string) => props.doc.editions.find((each) => each.id === edition)?.name
const wrong = computed(() => props.faults.filter((each) => each.gravity === 'wrong'))

async function discard(each: Export) {
  if (await sureToDelete(`Delete the file for ${each.outlet_name}?`, 'The clip stays: it can be exported again.')) await remove(each)
}

function goTo(word: Word) {
  watching.value = null
  emit('go', word)
}

const packing = ref(false)
const chooser = ref<HTMLInputElement | null>(null)
const timelineFile = (kind: string) => `/api/documents/${props.doc.id}/editions/${props.doc.edition}/timeline.${kind}`
function cameBack(event: Event) {
  const input = event.target as HTMLInputElement
  const [given] = input.files ?? []
  if (given) emit('timeline', given)
  input.value = ''
}

async function begin() {
  starting.value = true
  await start()
  starting.value = false
  await nextTick()
  go.value?.ref.focus()
}

useCommands(() => closing('close-export', () => emit('close'), '[data-export-panel]'))
const go = ref<{ ref: HTMLElement } | null>(null)
onMounted(() => (go.value?.ref ?? heading.value)?.focus())

function file(each: Export, kind: string, save = true) {
  return `/api/exports/${each.id}/files/${kind}${save ? `?save=true${pattern.value ? `&pattern=${encodeURIComponent(pattern.value)}` : ''}` : ''}`
}
const parts = computed(() => Object.keys(choices.value?.name_parts ?? {}).map((part) => `{${part}}`).join(' '))
const expectedOf = (edition: string) => expected.value.find((each) => each.edition === edition)
const plays = (each: Export) => ['mp4', 'webm'].includes(each.output.kind ?? 'mp4')
</script>

<template>
  <section class="drawer" aria-label="Export" data-export-panel>
    <header>
      <h2 ref="heading" tabindex="-1">Export</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <el-checkbox-group v-model="chosen" class="editions" aria-label="Editions to export">
      <el-checkbox v-for="each in doc.editions" :key="each.id" :value="each.id">
        {{ each.name }}
        <span v-if="expectedOf(each.id)" class="quiet">{{ expectedOf(each.id)!.width }} × {{ expectedOf(each.id)!.height }}, about {{ size(expectedOf(each.id)!.bytes) }}</span>
      </el-checkbox>
    </el-checkbox-group>
    <div v-if="stops.length || wrong.length" class="faults" data-test="export-faults">
      <p v-for="each in stops" :key="each.edition + each.says" class="alarm" role="alert" data-test="refused">{{ nameOf(each.edition) }}: {{ each.says }}</p>
      <p v-for="each in wrong.slice(0, TOLD)" :key="each.key">{{ each.says }}</p>
      <button v-if="faults.length" class="link" @click="$emit('proof')">{{ faults.length === 1 ? 'Look at it in the proof' : `Look at all ${faults.length} in the proof` }}</button>
    </div>
    <details>
      <summary>Format, quality, file name</summary>
      <div class="settings">
        <el-select v-model="kind" size="small" aria-label="Format">
          <el-option v-for="(name, key) in choices?.output_kinds" :key="key" :label="name" :value="key" />
        </el-select>
        <el-radio-group v-if="isVideo" v-model="quality" size="small" aria-label="Quality">
          <el-radio-button v-for="(name, key) in choices?.qualities" :key="key" :value="key">{{ name }}</el-radio-button>
        </el-radio-group>
        <el-select v-if="isVideo" v-model="lines" size="small" aria-label="Size" placeholder="Size of the outlet" clearable :value-on-clear="null">
          <el-option v-for="each in choices?.lines" :key="each" :label="`${each} lines`" :value="each" />
        </el-select>
        <p v-if="isPart" class="quiet">Taken from where you are, {{ clock(time) }}.</p>
        <el-input-number v-if="kind === 'gif' || kind === 'webp'" v-model="seconds" size="small" :min="choices?.loop_seconds[0]" :max="choices?.loop_seconds[1]" :step="0.5" aria-label="Length of the loop (s)" />
        <el-input v-model="pattern" size="small" :placeholder="doc.sheet.house?.naming || choices?.name_pattern" aria-label="File name pattern" />
        <p class="quiet">Placeholders: {{ parts }}</p>
      </div>
    </details>
    <el-button ref="go" type="primary" :loading="starting" :disabled="!doc.plan.frames || !chosen.length || stops.length > 0" data-test="export" @click="begin">
      {{ chosen.length === 1 ? `Export for ${doc.editions.find((each) => each.id === chosen[0])?.name}` : `Export ${chosen.length} editions` }}
    </el-button>
    <div class="beside">
      <el-button size="small" @click="$emit('cover')">Cover…</el-button>
      <el-button size="small" @click="$emit('post')">Text for the post…</el-button>
      <el-button size="small" @click="$emit('review')">Review…</el-button>
      <el-button size="small" @click="$emit('share')">Share page…</el-button>
      <el-button size="small" data-test="package-open" @click="packing = true">Package…</el-button>
    </div>
    <p v-if="!exports.length" class="quiet">You get a file to post for each edition, and its captions as text files beside it.</p>
    <article v-for="each in exports" :key="each.id" :data-ready="each.ready">
      <div class="head">
        <b>{{ each.outlet_name }}</b>
        <span class="time quiet">{{ clock(each.seconds) }}</span>
        <span v-if="each.ready" class="quiet">{{ size(each.bytes) }}</span>
        <span v-if="each.ready && each.lufs != null" class="quiet" title="Measured of the finished file">{{ each.lufs.toFixed(1) }} LUFS, peak {{ each.peak!.toFixed(1) }} dBTP</span>
        <span v-if="each.watched.length" class="quiet" data-test="watched">Watched to the end by {{ each.watched.map((one) => one.who).join(', ') }}</span>
        <el-tag v-if="each.ready && !each.current" size="small" type="warning">Clip changed since</el-tag>
      </div>
      <JobLine v-if="each.job && !each.ready" :job="each.job" :name="`Export for ${each.outlet_name}`" @cancel="cancel(each)" @retry="retry(each)" />
      <template v-if="each.ready">
        <div class="links">
          <el-button v-if="plays(each)" size="small" @click="watching = each">Watch back</el-button>
          <a :href="file(each, each.output.kind ?? 'mp4')" download>{{ (each.output.kind ?? 'mp4').toUpperCase() }}</a>
          <a v-for="captions in each.captions" :key="captions" :href="file(each, captions)" download>{{ captions.toUpperCase() }}</a>
          <span class="grow" />
          <el-button text size="small" @click="discard(each)">Delete…</el-button>
        </div>
      </template>
    </article>
    <details>
      <summary>For another editor</summary>
      <p class="quiet">Cuts, joins, speeds, pictures over words, sounds, captions and markers as OpenTimelineIO; cuts alone as EDL. What comes back reordered or trimmed is one change here, which can be undone.</p>
      <div class="links">
        <a :href="timelineFile('otio')" download>OTIO</a>
        <a :href="timelineFile('edl')" download>EDL</a>
        <el-button size="small" @click="chooser?.click()">Bring a timeline back…</el-button>
        <input ref="chooser" type="file" accept=".otio" hidden aria-label="A timeline from another editor" @change="cameBack">
      </div>
    </details>
    <PackageDialog v-if="packing" :clips="[doc.id]" :editions="doc.editions" :pattern="pattern" @close="packing = false" />
    <WatchBack v-if="watching" :export="watching" @close="watching = null" @watched="watched(watching, $event)" @mark="(word, note) => $emit('mark', word, note)" @go="goTo" />
  </section>
</template>

<style scoped>
.beside { display: flex; flex-wrap: wrap; gap: 8px; }
.beside .el-button { margin: 0; }
.drawer { display: flex; flex-direction: column; gap: 12px; padding: 14px 16px; height: 100%; overflow-y: auto; background: var(--paper); }
h2:focus { outline: none; }
header { display: flex; align-items: center; justify-content: space-between; }
.editions { display: flex; flex-direction: column; line-height: 1.4; }
.editions .el-checkbox { height: auto; padding: 3px 0; margin: 0; white-space: normal; }
.faults { display: flex; flex-direction: column; gap: 6px; align-items: flex-start; padding: 8px 10px; border-left: 3px solid var(--pencil); background: var(--paper-2); }
.faults p { font-size: 13px; }
.settings { display: flex; flex-direction: column; gap: 8px; align-items: flex-start; padding: 10px 0 2px; }
summary { font-size: 14px; cursor: pointer; }
p { margin: 0; font-size: 14px; }
article { display: flex; flex-direction: column; gap: 8px; padding-top: 12px; border-top: 1px solid var(--rule); }
.head { display: flex; flex-wrap: wrap; gap: 2px 8px; align-items: baseline; font-size: 14px; }
.head > * { white-space: nowrap; }
.links { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; font-size: 14px; }
.grow { flex: 1; }
</style>
