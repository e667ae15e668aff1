<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, reactive, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { moment } from '@/shared/format'
import { tell } from '@/shared/tell'
import { nextHour, type BoardClip } from './narrowing'
import { useOutbox } from './useOutbox'
import WhenFields from './WhenFields.vue'

/** Where clips go and when: now, or from a time on, spread over hours, days or weeks. */
const props = defineProps<{ clips: BoardClip[] }>()
const emit = defineEmits<{ close: [] }>()

const open = ref(true)
const { accounts, zones, steps, ownZone, plan, times } = useOutbox()
const outlets = computed(() => new Set(props.clips.flatMap((clip) => clip.cells.map((cell) => cell.outlet))))
const account = useLocalStorage('hovvet-plan-account', '')
const chosen = computed(() => accounts.value.find((each) => each.account === account.value) ?? null)
watch(accounts, (all) => { if (all.length && !chosen.value) account.value = (all.find((each) => outlets.value.has(each.outlet)) ?? all[0]!).account }, { immediate: true })
const how = ref<'now' | 'later'>('later')
const at = reactive({ ...nextHour(new Date()), zone: '' })
watch(ownZone, (zone) => (at.zone = zone), { immediate: true })
const step = ref<Schemas['Planning']['step']>('day')

/** Of each clip the edition for the outlet of the account, or why it stays out. */
const films = computed(() => props.clips.map((clip) => {
  const ready = clip.cells.filter((cell) => cell.film)
  const cell = ready.find((each) => each.outlet === chosen.value?.outlet) ?? null
  const there = cell?.sendings.find((each) => each.account === chosen.value?.name)
  return { clip, cell, why: !cell ? 'not exported for this outlet' : there ? (there.state === 'sent' ? 'has gone there' : 'planned for it already') : '' }
}))
const fitting = computed(() => films.value.filter((each) => !each.why))
const missing = computed(() => films.value.filter((each) => each.why))
const moments = ref<Schemas['TimesOut'] | null>(null)
const wrong = ref('')
const asked = computed(() => ({ at: `${at.day}T${at.time}`, zone: at.zone || 'UTC', step: step.value, count: Math.max(fitting.value.length, 1) }))
watch([asked, how], async () => {
  moments.value = null
  wrong.value = ''
  if (how.value === 'now' || !at.day || !at.time) return
  const mine = asked.value
  const found = await times(mine).catch((error: Error) => { wrong.value = error.message; return null })
  if (mine === asked.value) moments.value = found
}, { immediate: true })

const busy = ref(false)
async function go() {
  busy.value = true
  wrong.value = ''
  try {
    const made = await plan({
      films: fitting.value.map(({ clip, cell }) => ({ clip: clip.id, edition: cell!.edition })), end: chosen.value!.end, account: chosen.value!.account,
      at: how.value === 'now' ? null : asked.value.at, zone: asked.value.zone, step: step.value,
    })
    tell(how.value === 'now' ? `${made.length === 1 ? 'It is' : `${made.length} posts are`} being sent.` : `${made.length === 1 ? 'It is' : `${made.length} posts are`} planned.`)
    open.value = false
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
const label = computed(() => {
  const count = fitting.value.length
  const what = count < 2 ? '' : ` ${count} posts`
  return how.value === 'now' ? `Send${what} now` : `Plan${what}`
})
</script>

<template>
  <el-dialog v-model="open" append-to="main" data-own-keys :title="clips.length === 1 ? `Plan “${clips[0]!.title}”` : `Plan ${clips.length} clips`" width="min(560px, 96vw)" @closed="emit('close')">
    <p v-if="!accounts.length">There is no account to post to yet. <RouterLink :to="{ name: 'outbox' }">Make one in the outbox</RouterLink>, then plan.</p>
    <form v-else id="plan" @submit.prevent="go">
      <label>Account
        <select v-model="account" aria-label="Account"><option v-for="each in accounts" :key="each.account" :value="each.account">{{ each.name }} ({{ each.end_name }})</option></select>
      </label>
      <el-radio-group v-model="how" size="small" aria-label="When"><el-radio-button value="later">At a time</el-radio-button><el-radio-button value="now">Now</el-radio-button></el-radio-group>
      <template v-if="how === 'later'">
        <WhenFields v-model:day="at.day" v-model:time="at.time" v-model:zone="at.zone" :zones="zones" />
        <label v-if="fitting.length > 1">Spread
          <select v-model="step" aria-label="Spread"><option v-for="(name, key) in steps" :key="key" :value="key">{{ name }}</option></select>
        </label>
        <p v-if="moments?.twice" role="status">Clocks show that time twice that night, being set back: the first time is meant.</p>
      </template>
      <ol v-if="fitting.length" aria-label="What goes out" data-test="plan-list">
        <li v-for="(each, n) in fitting" :key="each.clip.id"><span class="time quiet">{{ how === 'now' ? 'now' : moments ? moment(moments.moments[n] ?? '') : '…' }}</span> {{ each.clip.title }}</li>
      </ol>
      <div v-if="missing.length" class="quiet">
        <p>{{ missing.length === 1 ? 'One clip stays' : `${missing.length} clips stay` }} out of it:</p>
        <ul><li v-for="each in missing" :key="each.clip.id">{{ each.clip.title }}: {{ each.why }}</li></ul>
      </div>
      <p v-if="wrong" class="alarm" role="alert">{{ wrong }}</p>
    </form>
    <template #footer>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="plan" :loading="busy" :disabled="!fitting.length || !chosen || (how === 'later' && !moments)" data-test="plan-go">{{ label }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
form { display: flex; flex-direction: column; gap: 12px; }
label:not([class]) { display: grid; grid-template-columns: 80px 1fr; align-items: center; }
select { padding: 4px 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 14px; }
ol, ul { max-height: 180px; margin: 0; padding: 8px 12px; overflow-y: auto; background: var(--paper-2); list-style: none; font-size: 14px; }
ol .time { display: inline-block; min-width: 110px; }
p { margin: 0; font-size: 14px; }
div ul { margin-top: 4px; }
</style>
