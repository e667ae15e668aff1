<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useCommands } from '@/commands/registry'
import type { Correction, Doc, Edit } from '@/document/useDocument'
import { clock } from '@/shared/format'
import type { Choices } from '@/shared/useChoices'
import { grouped, type Fault, type Fix, type Proof } from './useProof'

/** All that is wrong with the clip, gone through one by one: heard or seen at once, put right, or left as it is. */
const props = defineProps<{ doc: Doc; choices: Choices; proof: Proof }>()
const emit = defineEmits<{
  close: []; go: [seconds: number]; hear: [start: number, end: number]; edit: [edits: Edit[]]
  correct: [correction: Correction, recording: string]; openLayer: [layer: string]
}>()

const AROUND = 1 // seconds heard before and after

const { open, left, ofFile, current, error } = props.proof
const groups = computed(() => grouped(open.value, props.choices.gravities, props.choices.checks))
const walked = computed(() => groups.value.flatMap((group) => group.checks.flatMap((each) => each.faults)))
const at = ref<string | null>(null)
const here = computed(() => walked.value.find((each) => each.key === at.value) ?? null)
const panel = ref<HTMLElement | null>(null)
let place = 0 // of the one that was walked to: where it was is what comes next, once it has gone

function show(fault: Fault | undefined, look = true) {
  at.value = fault?.key ?? null
  if (!fault) return
  place = walked.value.indexOf(fault)
  if (look && fault.where) emit('go', fault.where.start + 0.01)
  void nextTick(() => panel.value?.querySelector<HTMLElement>('li.now')?.focus({ preventScroll: false }))
}
const walk = (by: number) => show(walked.value[here.value ? Math.min(Math.max(walked.value.indexOf(here.value) + by, 0), walked.value.length - 1) : 0])
// What was fixed goes: the next one takes its place.
watch(walked, (now) => { if (at.value && !now.some((each) => each.key === at.value)) show(now[Math.min(place, now.length - 1)], false) })

const hear = (fault: Fault) => { if (fault.where) emit('hear', Math.max(fault.where.start - AROUND, 0), Math.min(fault.where.end + AROUND, props.doc.seconds)) }

/** Do fixes together: the edits as one change, and the corrections of each recording as one. */
function mend(fixes: Fix[]) {
  const edits = fixes.flatMap((each) => each.edits as Edit[])
  if (edits.length) emit('edit', edits)
  const rewrites = fixes.flatMap((each) => each.rewrites)
  for (const recording of new Set(rewrites.map((each) => each.recording)))
    emit('correct', { type: 'rewrite', changes: rewrites.filter((each) => each.recording === recording).map((each) => each.change), fresh: 0 }, recording)
}
const first = (faults: Fault[]) => faults.flatMap((each) => each.fixes.slice(0, 1))
const ofKind = (fault: Fault) => walked.value.filter((each) => each.check === fault.check)

async function leave(fault: Fault) {
  const answer = await ElMessageBox.prompt('Why? It is kept with your name, for whoever looks next.', 'Leave it as it is', {
    confirmButtonText: 'Leave it', cancelButtonText: 'Cancel', inputPlaceholder: 'May stay empty', inputValidator: (why: string) => (why ?? '').length <= 200 || 'At most 200 letters.',
  }).catch(() => null)
  if (answer) await props.proof.leave(fault.key, (answer as { value: string | null }).value ?? '')
}

useCommands(() => {
  const where = '[data-proof-panel]'
  const now = here.value
  return [
    { id: 'close-proof', label: 'Close', keys: ['Escape'], run: () => emit('close') },
    { id: 'proof-next', label: 'The next fault', keys: ['Down'], where, run: () => walk(1) },
    { id: 'proof-before', label: 'The fault before', keys: ['Up'], where, run: () => walk(-1) },
    { id: 'proof-hear', label: 'Hear and see it', keys: ['Space'], where, enabled: () => !!now?.where, run: () => hear(now!) },
    { id: 'proof-fix', label: 'Fix it', keys: ['Enter'], where, enabled: () => !!now?.fixes.length, run: () => mend(first([now!])) },
    { id: 'proof-fix-all', label: 'Fix all of this kind', keys: ['Shift+Enter'], where, enabled: () => !!now && first(ofKind(now)).length > 0, run: () => mend(first(ofKind(now!))) },
    { id: 'proof-leave', label: 'Leave it as it is', keys: ['L'], where, enabled: () => !!now && now.gravity !== 'stops', run: () => void leave(now!) },
  ]
})
onMounted(() => {
  panel.value?.querySelector<HTMLElement>('h2')?.focus()
  if (walked.value[0]) show(walked.value[0])
})
</script>

<template>
  <section ref="panel" class="drawer" aria-label="Proof" data-proof-panel>
    <header>
      <h2 tabindex="-1">Proof</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="error" class="alarm" role="alert">{{ error.message }}</p>
    <p v-else-if="!current" role="status" class="quiet">Looking at the clip…</p>
    <p v-else-if="!open.length" role="status" class="good">Nothing is wrong that can be seen from here{{ left.length ? ', but for what was left as it is' : '' }}.</p>
    <p class="quiet">
      {{ ofFile ? 'The finished file was looked at and listened to as well.' : 'Flashes, black or frozen pictures, clicks and true peaks are looked for in the finished file: export it, and they are here.' }}
    </p>
    <p v-if="open.length" class="quiet keys"><kbd>↓</kbd> next, <kbd>Space</kbd> hear, <kbd>Enter</kbd> fix, <kbd>L</kbd> leave</p>
    <section v-for="group in groups" :key="group.gravity" :aria-label="group.heading">
      <h3 :class="{ alarm: group.gravity === 'stops' }">{{ group.heading }}</h3>
      <div v-for="each in group.checks" :key="each.check" class="check">
        <div class="head">
          <h4>{{ each.label }}<span v-if="each.faults.length > 1" class="quiet"> ({{ each.faults.length }})</span></h4>
          <el-button v-if="each.faults.length > 1 && first(each.faults).length > 1" size="small" text @click="mend(first(each.faults))">Fix all {{ first(each.faults).length }}</el-button>
        </div>
        <ul>
          <li v-for="fault in each.faults" :key="fault.key" :class="{ now: fault.key === at }" :tabindex="fault.key === at ? 0 : -1" :data-fault="fault.key" :data-check="fault.check" @click="show(fault)">
            <p><span v-if="fault.where" class="time quiet">{{ clock(fault.where.start) }}</span> {{ fault.says }}</p>
            <div v-if="fault.key === at" class="ways" @click.stop>
              <el-button v-for="(fix, n) in fault.fixes" :key="fix.label" size="small" :type="n ? undefined : 'primary'" @click="mend([fix])">{{ fix.label }}</el-button>
              <el-button v-if="fault.where" size="small" @click="hear(fault)">Play</el-button>
              <el-button v-if="fault.where?.layer" size="small" @click="$emit('openLayer', fault.where.layer)">Settings…</el-button>
              <el-button v-if="fault.gravity !== 'stops'" size="small" text @click="leave(fault)">Leave it…</el-button>
            </div>
          </li>
        </ul>
      </div>
    </section>
    <details v-if="left.length">
      <summary>Left as it is ({{ left.length }})</summary>
      <ul>
        <li v-for="fault in left" :key="fault.key" data-test="left">
          <p>{{ fault.says }}</p>
          <p class="quiet">{{ fault.left!.why ? `“${fault.left!.why}”` : 'No reason given' }}, {{ fault.left!.who || 'somebody who is no longer here' }}</p>
          <el-button size="small" text @click="proof.lookAgain(fault.key)">Take it up again</el-button>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header, .head { display: flex; gap: 8px; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
h3 { margin: 6px 0 2px; font-size: 14px; }
h4 { margin: 6px 0 2px; font-size: 13px; font-weight: 600; }
p { margin: 0; font-size: 13px; }
.good { color: var(--moss); font-size: 14px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; flex-direction: column; gap: 6px; padding: 7px 8px; border-top: 1px solid var(--rule); border-left: 3px solid transparent; cursor: pointer; }
li.now { border-left-color: var(--pencil); background: var(--paper-2); }
li p { line-height: 1.4; }
.time { margin-right: 4px; font-size: 12px; }
.ways { display: flex; flex-wrap: wrap; gap: 6px; cursor: default; }
.ways .el-button { margin: 0; }
summary { font-size: 13px; cursor: pointer; }
kbd { padding: 0 4px; border: 1px solid var(--rule); border-radius: 3px; font: 11px var(--mono); }
</style>
