<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { useCommands } from '@/commands/registry'
import { clock } from '@/shared/format'
import { tellError } from '@/shared/tell'
import type { Doc, Finding, SweepKind } from '@/document/useDocument'
import SweepSettings from './SweepSettings.vue'

type Reviewed = Schemas['Reviewed']

/** Going through what a sweep finds: by group or one by one, heard before and after, before anything is cut. */
const props = defineProps<{ doc: Doc | null; kinds: SweepKind[]; sweep: (wanted: Finding) => Promise<void> }>()
const emit = defineEmits<{ hear: [find: Reviewed, after: Finding | null] }>()

const KINDS: [SweepKind, string][] = [
  ['filler', 'Filler sounds'],
  ['phrase', 'Filler phrases'],
  ['repeat', 'Repeats'],
  ['restart', 'Restarts'],
  ['retake', 'Retakes'],
  ['pause', 'Long pauses'],
]
const SURE = [[0, 'All finds'], [0.5, '50 % sure or more'], [0.75, '75 % sure or more'], [0.9, '90 % sure or more']] as const

const finds = ref<Reviewed[] | null>(null)
const left = ref(new Set<string>())
const turned = ref(new Set<string>()) // retakes of which the earlier take stays
const opened = ref<SweepKind | null>(null)
const sure = ref(0)
const current = ref<string | null>(null)
const heard = ref<string | null>(null) // the find that was last heard as it is: the next press plays it cut
const busy = ref(false)
const setting = ref(false)
const seen = shallowRef<{ seconds: number; count: number } | null>(null) // what cutting them would do, as the server says
const list = ref<HTMLElement | null>(null)

const takes = (each: Reviewed) => !left.value.has(each.key) && each.find.confidence >= sure.value
const groups = computed(() =>
  KINDS.map(([kind, name]) => {
    const all = (finds.value ?? []).filter((each) => each.find.kind === kind)
    const taken = all.filter(takes)
    return { kind, name, all, taken: taken.length, saves: taken.reduce((sum, each) => sum + each.saves, 0) }
  }).filter((group) => group.all.length),
)
const chosen = computed(() => groups.value.reduce((sum, group) => sum + group.taken, 0))
const wanted = computed<Finding>(() => ({
  kinds: groups.value.filter((group) => group.taken).map((group) => group.kind),
  leave: (finds.value ?? []).filter((each) => !takes(each)).map((each) => each.key),
  instead: [...turned.value],
}))
/** What can be walked through by keyboard: the finds of the group that is open. */
const walked = computed(() => groups.value.find((group) => group.kind === opened.value)?.all ?? [])

watch(
  () => [props.doc?.version, props.doc?.words_at],
  () => { if (finds.value) void look() },
)

const measure = useDebounceFn(async () => {
  if (!props.doc || !finds.value) return
  if (!chosen.value) {
    seen.value = null
    return
  }
  try {
    seen.value = await got(api.POST('/api/documents/{document_id}/sweep/preview', { params: { path: { document_id: props.doc.id } }, body: wanted.value }))
  } catch (error) {
    tellError(error)
  }
}, 150)
watch(wanted, () => void measure())

async function look() {
  if (!props.doc) return
  busy.value = true
  try {
    finds.value = await got(api.GET('/api/documents/{document_id}/finds', { params: { path: { document_id: props.doc.id } } }))
  } catch (error) {
    tellError(error)
  } finally {
    busy.value = false
  }
}

async function cutAll() {
  busy.value = true
  await props.sweep({ kinds: props.kinds, leave: [], instead: [] })
  busy.value = false
}

async function cutChosen() {
  busy.value = true
  await props.sweep(wanted.value)
  busy.value = false
}

function choose(keys: string[], take: boolean) {
  const now = new Set(left.value)
  for (const key of keys) {
    if (take) now.delete(key)
    else now.add(key)
  }
  left.value = now
}

function turn(key: string, earlier: boolean) {
  const now = new Set(turned.value)
  if (earlier) now.add(key)
  else now.delete(key)
  turned.value = now
}

/** Hear a find as it is; heard once more, as it would be. */
function hear(each: Reviewed) {
  current.value = each.key
  const again = heard.value === each.key
  heard.value = again ? null : each.key
  emit('hear', each, again ? { kinds: [each.find.kind], leave: [], only: [each.key], instead: [...turned.value] } : null)
}

function walk(step: number) {
  const at = walked.value.findIndex((each) => each.key === current.value)
  const next = walked.value[Math.min(Math.max(at + step, 0), walked.value.length - 1)]
  if (!next) return
  current.value = next.key
  heard.value = null
  void nextTick(() => list.value?.querySelector('.current')?.scrollIntoView({ block: 'nearest' }))
}

function open(kind: SweepKind) {
  opened.value = opened.value === kind ? null : kind
  current.value = walked.value[0]?.key ?? null
  void nextTick(() => list.value?.querySelector<HTMLElement>('ul')?.focus())
}

const at = () => walked.value.find((find) => find.key === current.value)

useCommands(() => {
  const place = { where: '.sweep ul' }
  return [
    { id: 'find-next', label: 'The next find', keys: ['Down'], ...place, run: () => walk(1) },
    { id: 'find-before', label: 'The find before', keys: ['Up'], ...place, run: () => walk(-1) },
    { id: 'find-hear', label: 'Hear a find', keys: ['H'], ...place, run: () => at() && hear(at()!) },
    { id: 'find-tick', label: 'Tick or untick a find', keys: ['Enter'], ...place, run: tick },
    { id: 'find-turn', label: 'Keep the earlier take', keys: ['E'], ...place, run: () => at()?.find.instead.length && turn(at()!.key, !turned.value.has(at()!.key)) },
  ]
})

function tick() {
  const each = at()
  if (!each) return
  choose([each.key], left.value.has(each.key))
  walk(1)
}
</script>

<template>
  <section class="sweep">
    <template v-if="!finds">
      <p class="quiet">Cuts filler sounds such as “um” and shortens long pauses. One undo brings everything back.</p>
      <el-button :disabled="!doc" :loading="busy" @click="cutAll">Sweep (clean up)</el-button>
      <el-button text :disabled="!doc" @click="look">Review before cutting</el-button>
    </template>
    <div v-else ref="list">
      <p v-if="!groups.length" class="quiet">Nothing was found that is not cut already.</p>
      <div v-for="group in groups" :key="group.kind" class="group">
        <div class="head">
          <el-checkbox
            :model-value="group.taken > 0 && group.taken === group.all.length" :indeterminate="group.taken > 0 && group.taken < group.all.length"
            @change="choose(group.all.map((each) => each.key), $event === true)"
          >{{ group.name }}</el-checkbox>
          <span class="time quiet">{{ group.taken }} of {{ group.all.length }} · {{ group.saves.toFixed(1) }} s</span>
          <el-button text size="small" :aria-expanded="opened === group.kind" @click="open(group.kind)">{{ opened === group.kind ? 'Hide' : 'Show' }}</el-button>
        </div>
        <ul v-if="opened === group.kind" tabindex="0" :aria-label="group.name">
          <li v-for="each in group.all" :key="each.key" :class="{ current: current === each.key, leave: !takes(each) }">
            <el-checkbox
              :model-value="takes(each)" :disabled="each.find.confidence < sure" :aria-label="`Cut ${each.find.text || 'pause'}`"
              @change="choose([each.key], $event === true)"
            />
            <div>
              <button class="words" :title="heard === each.key ? 'Hear it cut (H)' : 'Hear it as it is (H)'" @click="hear(each)">
                <span class="time quiet">{{ clock(each.find.start, false) }}</span>
                {{ each.before }}
                <s v-if="each.find.text && !turned.has(each.key)">{{ each.find.text }}</s>
                <span v-else-if="each.find.text">{{ each.find.text }} <s>(the later take)</s></span>
                <s v-else class="time">{{ (each.find.end - each.find.start).toFixed(1) }} s</s>
                {{ each.after }}
              </button>
              <label v-if="each.find.instead.length" class="keep">
                Keep
                <select :value="turned.has(each.key) ? 'earlier' : 'later'" @change="turn(each.key, ($event.target as HTMLSelectElement).value === 'earlier')">
                  <option value="later">the later take</option>
                  <option value="earlier">the earlier take</option>
                </select>
              </label>
            </div>
          </li>
        </ul>
      </div>
      <div class="foot">
        <p v-if="opened" class="hint quiet">H plays it as it is; H again plays it cut. Enter ticks or unticks.<template v-if="opened === 'retake'"> E keeps the earlier take.</template></p>
        <div class="line">
          <select v-model.number="sure" aria-label="How sure">
            <option v-for="[value, name] in SURE" :key="value" :value="value">{{ name }}</option>
          </select>
          <span v-if="doc && chosen && seen" class="time" data-test="after">{{ clock(doc.seconds) }} → {{ clock(seen.seconds) }}</span>
        </div>
        <div class="done">
          <el-button type="primary" :disabled="!chosen" :loading="busy" @click="cutChosen">Cut {{ seen && chosen ? seen.count : chosen }}<template v-if="doc && chosen && seen">, {{ (doc.seconds - seen.seconds).toFixed(1) }} s</template></el-button>
          <el-button text @click="finds = null">Close</el-button>
        </div>
      </div>
    </div>
    <el-button v-if="doc" text size="small" class="settings" :aria-expanded="setting" @click="setting = !setting">Clean-up settings</el-button>
    <SweepSettings v-if="doc?.recording && setting" :recording-id="doc.recording" @saved="finds && look()" />
  </section>
</template>

<style scoped>
.sweep p { margin: 4px 0 10px; font-size: 14px; }
.sweep .hint { font-size: 12px; }
.group { border-bottom: 1px solid var(--rule); }
.head { display: flex; gap: 6px; align-items: center; }
.head .time { margin-left: auto; font-size: 12px; white-space: nowrap; }
ul { max-height: 230px; margin: 0; padding: 0; overflow-y: auto; list-style: none; }
li { display: flex; gap: 8px; align-items: flex-start; padding: 2px 4px; border-left: 2px solid transparent; }
li.current { border-left-color: var(--pencil); background: var(--paper-2); }
li.leave .words { color: var(--ink-2); }
li.leave s { text-decoration-color: var(--rule); }
.words { padding: 3px 0; border: 0; background: none; color: var(--ink); font: 14px/1.4 var(--serif); text-align: left; cursor: pointer; }
.words:hover { color: var(--pencil); }
.keep { display: block; font-size: 13px; }
select { padding: 2px 4px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 13px; }
s { color: var(--ink-2); text-decoration-color: var(--pencil); text-decoration-thickness: 2px; }
.foot { position: sticky; bottom: 0; z-index: 3; padding: 6px 0; background: var(--paper); box-shadow: 0 -6px 8px var(--paper); }
.line { display: flex; gap: 8px; align-items: center; justify-content: space-between; }
.done { margin-top: 8px; }
ul:focus-visible { outline-offset: -2px; }
.settings { margin: 6px 0 0 -8px; }
</style>
