<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { clock } from '@/composables/format'
import { tellError } from '@/composables/tell'
import type { Doc, SweepKind } from '@/composables/useDocument'

type Reviewed = Schemas['Reviewed']

/** Going through what a sweep finds: by group or one by one, before anything is cut. */
const props = defineProps<{ doc: Doc | null; sweep: (kinds: SweepKind[], leave?: string[]) => Promise<void> }>()
const emit = defineEmits<{ hear: [seconds: number]; open: [is: boolean] }>()

const KINDS: [SweepKind, string][] = [
  ['filler', 'Filler sounds'],
  ['phrase', 'Filler phrases'],
  ['repeat', 'Repeats'],
  ['restart', 'Restarts'],
  ['retake', 'Retakes'],
  ['pause', 'Long pauses'],
]

const finds = ref<Reviewed[] | null>(null)
const left = ref(new Set<string>())
const opened = ref<SweepKind | null>(null)
const busy = ref(false)

const groups = computed(() =>
  KINDS.map(([kind, name]) => {
    const all = (finds.value ?? []).filter((each) => each.find.kind === kind)
    const taken = all.filter((each) => !left.value.has(each.key))
    return { kind, name, all, taken: taken.length, saves: taken.reduce((sum, each) => sum + each.saves, 0) }
  }).filter((group) => group.all.length),
)
const chosen = computed(() => groups.value.reduce((sum, group) => sum + group.taken, 0))
const saves = computed(() => groups.value.reduce((sum, group) => sum + group.saves, 0))

watch(finds, (now) => emit('open', now !== null))
watch(
  () => props.doc?.version,
  () => { if (finds.value) void look() },
)

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
  await props.sweep(['filler', 'pause'])
  busy.value = false
}

async function cutChosen() {
  busy.value = true
  await props.sweep(groups.value.filter((group) => group.taken).map((group) => group.kind), [...left.value])
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
</script>

<template>
  <section class="sweep">
    <h2>Sweep</h2>
    <template v-if="!finds">
      <p class="quiet">Cuts filler sounds such as “um” and shortens pauses of 0.7 s and more. One undo brings everything back.</p>
      <el-button :disabled="!doc" :loading="busy" @click="cutAll">Sweep</el-button>
      <el-button text :disabled="!doc" @click="look">Look through first</el-button>
    </template>
    <template v-else>
      <p v-if="!groups.length" class="quiet">Nothing was found that is not cut already.</p>
      <div v-for="group in groups" :key="group.kind" class="group">
        <div class="head">
          <el-checkbox
            :model-value="group.taken === group.all.length" :indeterminate="group.taken > 0 && group.taken < group.all.length"
            @change="choose(group.all.map((each) => each.key), $event === true)"
          >{{ group.name }}</el-checkbox>
          <span class="time quiet">{{ group.taken }} of {{ group.all.length }} · {{ group.saves.toFixed(1) }} s</span>
          <el-button
            text size="small" :aria-expanded="opened === group.kind"
            @click="opened = opened === group.kind ? null : group.kind"
          >{{ opened === group.kind ? 'Hide' : 'Show' }}</el-button>
        </div>
        <ul v-if="opened === group.kind">
          <li v-for="each in group.all" :key="each.key">
            <el-checkbox
              :model-value="!left.has(each.key)" :aria-label="`Cut ${each.find.text || 'pause'}`"
              @change="choose([each.key], $event === true)"
            />
            <button title="Hear it" @click="emit('hear', each.find.start)">
              <span class="time quiet">{{ clock(each.find.start, false) }}</span>
              {{ each.before }}
              <s v-if="each.find.text">{{ each.find.text }}</s>
              <s v-else class="time">{{ (each.find.end - each.find.start).toFixed(1) }} s</s>
              {{ each.after }}
            </button>
          </li>
        </ul>
      </div>
      <div class="done">
        <el-button type="primary" :disabled="!chosen" :loading="busy" @click="cutChosen">
          Cut {{ chosen }}, {{ saves.toFixed(1) }} s
        </el-button>
        <el-button text @click="finds = null">Close</el-button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.sweep p { margin: 4px 0 10px; font-size: 14px; }
.group { border-bottom: 1px solid var(--rule); }
.head { display: flex; gap: 8px; align-items: center; }
.head .time { margin-left: auto; font-size: 12px; white-space: nowrap; }
ul { max-height: 260px; margin: 0; padding: 0; overflow-y: auto; list-style: none; }
li { display: flex; gap: 8px; align-items: flex-start; padding: 2px 0; }
li button { padding: 3px 0; border: 0; background: none; color: var(--ink); font: 14px/1.4 var(--serif); text-align: left; cursor: pointer; }
li button:hover { color: var(--pencil); }
s { color: var(--ink-2); text-decoration-color: var(--pencil); text-decoration-thickness: 2px; }
.done { margin-top: 10px; }
</style>
