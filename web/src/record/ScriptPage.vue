<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useCommands } from '@/commands/registry'
import RecordStage from './RecordStage.vue'
import ScriptWriting from './ScriptWriting.vue'
import TakesPane from './TakesPane.vue'
import { useScript } from './useScripts'

/** A script: written, recorded, and its takes put together. Without one (`id` ""), only recorded. */
const props = defineProps<{ id?: string }>()
const STEPS = { script: 'Script', record: 'Record', takes: 'Takes' }
type Step = keyof typeof STEPS
const route = useRoute()
const router = useRouter()
const mine = useScript(() => props.id ?? '')
const { script } = mine
const step = computed<Step>(() => (!props.id ? 'record' : route.query.step === 'record' || route.query.step === 'takes' ? route.query.step : 'script'))
const line = computed(() => Math.max(Number(route.query.line) || 0, 0))
const busy = ref(false)
const to = (next: Step, from?: number) => ({ name: 'script', params: { id: props.id }, query: { step: next, ...(from ? { line: from } : {}) } })
const go = (next: Step, from?: number) => void router.push(to(next, from))

useCommands(() => (props.id ? [
  { id: 'script-write', label: 'To the script', keys: ['1'], run: () => go('script'), enabled: () => !busy.value },
  { id: 'script-record', label: 'Record the script', keys: ['2'], run: () => go('record'), enabled: () => !busy.value },
  { id: 'script-takes', label: 'To the takes', keys: ['3'], run: () => go('takes'), enabled: () => !busy.value },
] : []))

function kept(recording: string) {
  if (props.id) {
    void mine.refresh()
    go('takes')
  } else void router.push({ name: 'desk', params: { id: recording } })
}
</script>

<template>
  <div class="page">
    <Teleport defer to="#crumbs"><RouterLink :to="{ name: 'record' }">Record</RouterLink> <h1 class="title">{{ id ? script?.title : 'Without a script' }}</h1></Teleport>
    <nav v-if="id" aria-label="Steps">
      <RouterLink v-for="(name, each) in STEPS" :key="each" :to="to(each)" :aria-current="step === each ? 'step' : undefined" active-class="" exact-active-class="">{{ name }}<i v-if="each === 'takes' && script?.takes.length" class="quiet">&nbsp;{{ script.takes.length }}</i></RouterLink>
    </nav>
    <p v-if="mine.query.error.value && !script" class="alarm none" role="alert">{{ mine.query.error.value.message }}</p>
    <template v-else-if="script || !id">
      <ScriptWriting v-if="step === 'script' && script" :script="script" @change="mine.change" @record="go('record')" @read="mine.readThrough" />
      <RecordStage v-else-if="step === 'record'" :key="id" :script="script" :line="line" @kept="kept" @busy="busy = $event" @pace="mine.change({ pace: $event })" />
      <TakesPane v-else-if="script" :script="script" :beside="mine.beside.value" :clip-of="mine.clipOf" @change="mine.changeTake" @remove="mine.removeTake" @again="go('record', $event)" />
    </template>
  </div>
</template>

<style scoped>
.page { display: flex; flex-direction: column; height: 100%; min-height: 0; }
nav { display: flex; gap: 22px; padding: 8px 24px 0; border-bottom: 1px solid var(--rule); }
nav a { padding: 6px 0; border-bottom: 2px solid transparent; color: var(--ink-2); font-weight: 500; text-decoration: none; }
nav a[aria-current] { border-bottom-color: var(--pencil); color: var(--ink); }
nav i { font-style: normal; font-weight: 400; }
.none { padding: 24px; }
.title { overflow: hidden; font-size: 15px; text-overflow: ellipsis; white-space: nowrap; }
</style>
