<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import CommandButton from '@/commands/CommandButton.vue'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import type { Passage, Step, usePassages } from './usePassages'

/** What of the recording is worth sharing, and why: walked by keyboard, changed by a sentence, made into clips. */
const props = defineProps<{ passages: ReturnType<typeof usePassages>; ready: boolean; current: string; focused?: boolean /* who opened the page came for them */ }>()
const emit = defineEmits<{ 'update:current': [id: string]; hear: [passage: Passage]; made: [clips: { id: string; title: string }[]] }>()

const { found, looking } = props.passages
const hiding = ref(false) // hidden ones are shown too
const ticked = ref(new Set<string>())
const busy = ref(false)
const list = ref<HTMLElement | null>(null)
const hidden = computed(() => (found.value?.passages ?? []).filter((each) => each.state === 'hidden'))
const shown = computed(() => (hiding.value ? found.value?.passages ?? [] : props.passages.shown.value))
const own = computed(() => shown.value.find((each) => each.id === props.current))
watch(shown, (all) => {
  if (!own.value) emit('update:current', all[0]?.id ?? '')
  ticked.value = new Set([...ticked.value].filter((id) => all.some((each) => each.id === id && each.state === 'waiting')))
}, { immediate: true })

/** Put the focus where passages are walked, once they are there: who came for them goes on with the keys. */
watch(() => props.focused && shown.value.length > 0 && list.value, async (there) => {
  if (!there) return
  await nextTick()
  list.value?.querySelector<HTMLElement>('ul')?.focus()
}, { immediate: true, flush: 'post' })

const STEPS: [Step, string, string][] = [['earlier', 'Start earlier', 'E'], ['later', 'Start later', 'L'], ['on', 'End later', 'R'], ['sooner', 'End earlier', 'S']]

function walk(step: number) {
  const at = shown.value.findIndex((each) => each.id === props.current)
  const next = shown.value[Math.min(Math.max(at + step, 0), shown.value.length - 1)]
  if (!next) return
  emit('update:current', next.id)
  void nextTick(() => list.value?.querySelector('.current')?.scrollIntoView({ block: 'nearest' }))
}

function tick(id: string) {
  const now = new Set(ticked.value)
  if (!now.delete(id)) now.add(id)
  ticked.value = now
}

async function hide(passage: Passage) {
  const at = shown.value.findIndex((each) => each.id === passage.id)
  const next = shown.value[at + 1] ?? shown.value[at - 1]
  if (await props.passages.hide(passage, passage.state !== 'hidden') && !hiding.value) emit('update:current', next?.id ?? '')
}

async function make(ids: string[]) {
  busy.value = true
  const made = await props.passages.make(ids)
  busy.value = false
  if (made.length) emit('made', made)
}

const place = { where: '.passages ul' }
useCommands(() => [
  { id: 'passage-next', label: 'Next passage', keys: ['Down'], ...place, run: () => walk(1) },
  { id: 'passage-before', label: 'Previous passage', keys: ['Up'], ...place, run: () => walk(-1) },
  { id: 'passage-hear', label: 'Play the passage', keys: ['P'], ...place, run: () => own.value && emit('hear', own.value) },
  { id: 'passage-make', label: 'Make a clip of the passage', keys: ['Enter'], ...place, run: () => own.value && void make([own.value.id]) },
  { id: 'passage-hide', label: 'Hide the passage', keys: ['X'], ...place, run: () => own.value && void hide(own.value) },
  { id: 'passage-tick', label: 'Tick or untick the passage', keys: ['Space'], ...place, run: () => own.value && tick(own.value.id) },
  ...STEPS.map(([step, label, key]) => ({ id: `passage-${step}`, label, keys: [key], ...place, run: () => own.value && void props.passages.step(own.value, step) })),
])
const tooLong = (passage: Passage) => passage.seconds > (found.value?.longest ?? Infinity)
</script>

<template>
  <section class="passages">
    <p v-if="!ready" class="quiet">This waits until all words have been found.</p>
    <p v-else-if="found && !found.english" class="quiet">Passages are found in English so far. Drag over one that is worth sharing, then press <b>Make clip</b>.</p>
    <template v-else-if="looking">
      <p class="quiet" role="status">Finding passages worth sharing…</p>
    </template>
    <template v-else-if="found && found.state === null">
      <p class="quiet">Hovvet looks for stretches that would stand alone as a clip, and says why.</p>
      <el-button @click="passages.look()">Find passages</el-button>
    </template>
    <template v-else-if="found && found.state === 'failed'">
      <p class="alarm" role="alert">Finding passages failed.</p>
      <el-button @click="passages.look()">Find again</el-button>
    </template>
    <template v-else-if="found && !found.passages.length">
      <p class="quiet">Nothing here seems to stand alone. Drag over the words you want to share and press <b>Make clip</b>, or take all of it.</p>
      <CommandButton id="make-whole-clip" size="small" />
    </template>
    <div v-if="found && shown.length && !looking" ref="list">
      <ul tabindex="0" aria-label="Passages">
        <li v-for="each in shown" :key="each.id" :class="{ current: each.id === current, gone: each.state !== 'waiting' }" data-test="passage" @click="$emit('update:current', each.id)">
          <div class="head">
            <el-checkbox v-if="each.state === 'waiting'" :model-value="ticked.has(each.id)" :aria-label="`Tick “${each.titles[0]}”`" @change="tick(each.id)" />
            <b>{{ each.titles[0] }}</b>
            <span class="time" :class="tooLong(each) ? 'alarm' : 'quiet'">{{ clock(each.seconds, false) }} (limit {{ clock(found.longest, false) }})</span>
          </div>
          <p class="line"><span class="time quiet">{{ clock(each.start, false) }}</span> {{ each.line }}</p>
          <p class="why"><span class="strength" :class="{ strong: each.strength === 'strong' }">{{ each.state === 'made' ? 'A clip was made' : each.state === 'hidden' ? 'Hidden' : each.strength === 'strong' ? 'Strong' : 'Worth a look' }}</span></p>
          <template v-if="each.id === current">
            <p v-for="reason in each.reasons" :key="reason.kind" class="why">{{ reason.text }}</p>
            <p v-for="warning in each.warnings" :key="warning" class="why warning">{{ warning }}</p>
            <div class="acts">
              <el-button size="small" @click="$emit('hear', each)">Play</el-button>
              <el-button size="small" type="primary" :loading="busy" @click="make([each.id])">Make clip</el-button>
              <el-button size="small" text @click="hide(each)">{{ each.state === 'hidden' ? 'Show again' : 'Hide' }}</el-button>
            </div>
            <div class="acts">
              <el-button v-for="[step, name] in STEPS" :key="step" size="small" text @click="passages.step(each, step)">{{ name }}</el-button>
            </div>
          </template>
        </li>
      </ul>
      <div class="foot">
        <el-button v-if="ticked.size" type="primary" size="small" :loading="busy" data-test="make-clips" @click="make([...ticked])">Make {{ ticked.size }} clip{{ ticked.size === 1 ? '' : 's' }}</el-button>
        <el-button v-if="hidden.length" size="small" text @click="hiding = !hiding">{{ hiding ? 'Leave out' : 'Show' }} {{ hidden.length }} hidden</el-button>
        <el-button size="small" text @click="passages.look()">Find again</el-button>
      </div>
      <p class="keys quiet">Arrows walk · P plays · Enter makes the clip · X hides · Space ticks · E, L start earlier, later · R, S end later, earlier</p>
      <p v-if="found.shifted" class="keys quiet">What you kept and hid in this show has a small part in this. <el-button link size="small" @click="passages.forget()">Reset what it learned</el-button></p>
    </div>
    <el-button v-else-if="hidden.length && !looking" size="small" text @click="hiding = true">Show {{ hidden.length }} hidden</el-button>
  </section>
</template>

<style scoped>
p { margin: 4px 0 8px; font-size: 14px; }
ul { margin: 0; padding: 0; list-style: none; }
ul:focus-visible { outline-offset: -2px; }
li { padding: 7px 6px 5px 8px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; cursor: pointer; }
li.current { border-left-color: var(--pencil); background: var(--paper-2); }
li.gone b, li.gone .line { color: var(--ink-2); font-weight: 500; }
.head { display: flex; gap: 6px; align-items: baseline; font-size: 14px; line-height: 1.3; }
.head b { flex: 1; font-weight: 600; }
.head .time { font-size: 12px; white-space: nowrap; }
.head .el-checkbox { height: 18px; align-self: flex-start; }
.line { display: -webkit-box; margin: 3px 0 2px; overflow: hidden; font: 14px/1.4 var(--serif); -webkit-box-orient: vertical; -webkit-line-clamp: 2; }
li.current .line { -webkit-line-clamp: 4; }
.why { margin: 2px 0; font-size: 13px; line-height: 1.35; }
.strength { color: var(--ink-2); }
.strength.strong { color: var(--moss); font-weight: 600; }
.warning { color: var(--rust); }
.acts { display: flex; flex-wrap: wrap; gap: 4px; margin-top: 5px; }
.acts .el-button { margin: 0; }
.foot { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 8px 0 4px; }
.foot .el-button { margin: 0; }
.keys { margin: 2px 0 4px; font-size: 12px; line-height: 1.4; }
</style>
