<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { useCommands } from '@/commands/registry'
import { at, byDay, dayOf, daysOn, monthsOn, weeksOf } from './narrowing'
import StateMark from './StateMark.vue'
import { useBoard } from './useBoard'
import { useOutbox, type Posting } from './useOutbox'

/** Month by month: what goes out, what went, and what is due; a day of it in full beside. */
const SHOWN = 3 // of a day in the month
const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const { board } = useBoard()
const { postings, states } = useOutbox()
const today = dayOf(new Date())
const day = ref(today)
const grid = ref<HTMLElement | null>(null)
const weeks = computed(() => weeksOf(day.value))
const out = computed(() => byDay(postings.value, (each) => dayOf(new Date(each.sent ?? each.at))))
const dueBy = computed(() => byDay((board.value?.clips ?? []).filter((each) => each.due), (each) => each.due!))
const posts = (on: string) => out.value.get(on) ?? []
const due = (on: string) => dueBy.value.get(on) ?? []
const count = (on: string) => posts(on).length + due(on).length
const told = (row: Posting) => (row.asks ? 'alarm' : row.state)
const time = (row: Posting) => new Date(row.sent ?? row.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
const long = (on: string) => at(on).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
const month = computed(() => at(day.value).toLocaleDateString('en-GB', { month: 'long', year: 'numeric' }))

async function go(to: string) {
  day.value = to
  await nextTick()
  grid.value?.querySelector<HTMLElement>('[aria-pressed=true]')?.focus()
}
const where = '[data-calendar]'
useCommands(() => [
  { id: 'day-next', label: 'The next day', keys: ['Right'], where, run: () => void go(daysOn(day.value, 1)) },
  { id: 'day-before', label: 'The day before', keys: ['Left'], where, run: () => void go(daysOn(day.value, -1)) },
  { id: 'week-next', label: 'A week on', keys: ['Down'], where, run: () => void go(daysOn(day.value, 7)) },
  { id: 'week-before', label: 'A week back', keys: ['Up'], where, run: () => void go(daysOn(day.value, -7)) },
  { id: 'month-next', label: 'The next month', keys: ['PageDown'], where, run: () => void go(monthsOn(day.value, 1)) },
  { id: 'month-before', label: 'The month before', keys: ['PageUp'], where, run: () => void go(monthsOn(day.value, -1)) },
])
</script>

<template>
  <div class="calendar">
    <section class="month" :aria-label="month">
      <header>
        <h2>{{ month }}</h2>
        <el-button size="small" aria-label="The month before" title="The month before (PageUp)" @click="day = monthsOn(day, -1)">‹</el-button>
        <el-button size="small" @click="day = today">Today</el-button>
        <el-button size="small" aria-label="The next month" title="The next month (PageDown)" @click="day = monthsOn(day, 1)">›</el-button>
      </header>
      <table ref="grid" data-calendar>
        <thead><tr><th v-for="each in WEEKDAYS" :key="each" scope="col">{{ each }}</th></tr></thead>
        <tbody>
          <tr v-for="week in weeks" :key="week[0]">
            <td v-for="on in week" :key="on" :class="{ other: on.slice(0, 7) !== day.slice(0, 7), today: on === today }">
              <button :aria-pressed="on === day" :aria-label="`${long(on)}: ${count(on) || 'nothing'}`" :tabindex="on === day ? 0 : -1" @click="day = on">
                <span class="date">{{ Number(on.slice(8)) }}</span>
                <span v-for="row in posts(on).slice(0, SHOWN)" :key="row.id" class="thing" :data-state="told(row)">{{ time(row) }} {{ row.title }}</span>
                <span v-for="clip in due(on).slice(0, Math.max(SHOWN - posts(on).length, 0))" :key="clip.id" class="thing due">Due: {{ clip.title }}</span>
                <span v-if="count(on) > SHOWN" class="quiet">{{ count(on) - SHOWN }} more</span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <aside aria-label="The day">
      <h2>{{ long(day) }}</h2>
      <p v-if="!count(day)" class="quiet">Nothing goes out that day, and nothing is due.</p>
      <ul>
        <li v-for="row in posts(day)" :key="row.id">
          <span class="time">{{ time(row) }}</span> <RouterLink :to="{ name: 'outbox', query: { clip: row.clip } }">{{ row.title }}</RouterLink>
          <p class="quiet">to {{ row.account_name }}<template v-if="row.zone !== 'UTC'">, planned in {{ row.zone.replaceAll('_', ' ') }}</template></p>
          <StateMark :state="row.state" :name="states[row.state] ?? ''" />
        </li>
        <li v-for="clip in due(day)" :key="clip.id"><span class="quiet">Due:</span> <RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink></li>
      </ul>
    </aside>
  </div>
</template>

<style scoped>
.calendar { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 280px; min-height: 0; }
.month { display: flex; flex-direction: column; min-height: 0; padding: 12px 24px 20px; overflow-y: auto; }
header { display: flex; gap: 6px; align-items: center; }
header h2 { min-width: 160px; }
header .el-button { margin: 0; }
table { flex: 1; width: 100%; min-height: 440px; margin-top: 8px; border-collapse: collapse; table-layout: fixed; }
th { padding: 4px 8px; color: var(--ink-2); font-size: 13px; font-weight: 500; text-align: left; }
thead tr { height: 28px; }
td { position: relative; height: 16%; padding: 0; border: 1px solid var(--rule); vertical-align: top; }
td button { position: absolute; inset: 0; display: flex; flex-direction: column; gap: 2px; width: 100%; padding: 6px 8px; border: 0; background: none; color: var(--ink); text-align: left; cursor: pointer; }
td button[aria-pressed='true'] { background: var(--paper-2); }
.date { font: 13px var(--mono); }
.other .date { color: var(--ink-2); }
.today .date { color: var(--pencil); font-weight: 600; }
.thing { padding: 0 4px; border-left: 3px solid var(--pencil); overflow: hidden; font-size: 12px; line-height: 1.45; text-overflow: ellipsis; white-space: nowrap; }
.thing[data-state='sent'] { border-left-color: var(--moss); }
.thing[data-state='alarm'] { border-left-color: var(--alarm); }
.thing.due { border-left-color: var(--ink-2); color: var(--ink-2); }
td .quiet { font-size: 12px; }
aside { padding: 16px 20px; border-left: 1px solid var(--rule); overflow-y: auto; font-size: 14px; }
ul { margin: 10px 0; padding: 0; list-style: none; }
li { padding: 8px 0; border-top: 1px solid var(--rule); }
li p { margin: 0; font-size: 13px; }
@media (width < 900px) { .calendar { display: block; overflow-y: auto; } .month { padding: 8px; } aside { border-left: 0; } }
</style>
