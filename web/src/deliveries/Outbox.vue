<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { sureToDelete } from '@/shared/ask'
import { moment } from '@/shared/format'
import AccountsPanel from './AccountsPanel.vue'
import StateMark from './StateMark.vue'
import TimeDialog from './TimeDialog.vue'
import { useOutbox, type Posting } from './useOutbox'

/** What waits for somebody, what is planned, what went out; and the accounts that it goes to. */
const route = useRoute()
const { postings, loaded, states, zones, ownZone, change, takeBack } = useOutbox()
const shown = computed(() => postings.value.filter((each) => !route.query.clip || each.clip === route.query.clip))
const groups = computed(() => [
  { head: 'Needs you', rows: shown.value.filter((each) => each.asks) },
  { head: 'Planned', rows: shown.value.filter((each) => !each.asks && each.state !== 'sent') },
  { head: 'Sent', rows: shown.value.filter((each) => each.state === 'sent').reverse() },
].filter((each) => each.rows.length))
const putOff = ref<Posting | null>(null)
async function drop(row: Posting) {
  if (await sureToDelete(`Take “${row.title}” back?`, 'It does not go out then. The film stays, and can be planned again.')) await takeBack(row)
}
const told = (row: Posting) => (row.state === 'waiting' ? `${row.told} It is tried again at ${moment(row.due)}.` : row.told)
</script>

<template>
  <div class="outbox">
    <div class="posts">
      <p v-if="route.query.clip && postings.length" class="quiet">Posts of one clip. <RouterLink :to="{ name: 'outbox' }">Show all</RouterLink></p>
      <p v-if="loaded && !shown.length" class="none">Nothing is planned, and nothing went out yet. <RouterLink :to="{ name: 'board' }">Choose clips on the board</RouterLink>, then “Plan…”.</p>
      <section v-for="group in groups" :key="group.head" :aria-label="group.head">
        <h2>{{ group.head }} <span class="quiet">{{ group.rows.length }}</span></h2>
        <ul>
          <li v-for="row in group.rows" :key="row.id" data-test="posting">
            <span class="time">{{ moment(row.sent ?? row.at) }}</span>
            <div>
              <RouterLink :to="{ name: 'sheet', params: { id: row.clip }, query: { edition: row.edition } }">{{ row.title }}</RouterLink>
              <span class="quiet"> to {{ row.account_name }}</span>
              <p v-if="row.told" class="why">{{ told(row) }}</p>
              <div v-if="row.can_change" class="ways">
                <el-button v-if="row.state !== 'planned'" size="small" type="primary" @click="change(row, { now: true })">Send now</el-button>
                <el-button v-else size="small" @click="change(row, { now: true })">Send now</el-button>
                <el-button size="small" @click="putOff = row">Another time…</el-button>
                <el-button v-if="row.newer" size="small" @click="change(row, { newest: true })">Use the newest film</el-button>
                <el-button size="small" text @click="drop(row)">Take back…</el-button>
              </div>
            </div>
            <StateMark :state="row.state" :name="states[row.state] ?? ''" />
            <RouterLink v-if="row.state === 'sent' && row.end === 'stand-in'" :to="{ name: 'feed', params: { account: row.account } }" class="seen">See it there</RouterLink>
          </li>
        </ul>
      </section>
    </div>
    <AccountsPanel />
    <TimeDialog v-if="putOff" :posting="putOff" :zones="zones" :own-zone="ownZone" @at="(at, zone) => change(putOff!, { at, zone })" @close="putOff = null" />
  </div>
</template>

<style scoped>
.outbox { display: grid; flex: 1; grid-template-columns: minmax(0, 1fr) 320px; min-height: 0; }
.posts { padding: 16px 24px; overflow-y: auto; }
h2 { margin: 8px 0; }
h2 .quiet { font-weight: 400; }
ul { margin: 0 0 20px; padding: 0; list-style: none; }
li { display: grid; grid-template-columns: 110px minmax(0, 1fr) auto; gap: 4px 12px; align-items: start; padding: 10px 0; border-top: 1px solid var(--rule); }
li .time { padding-top: 2px; }
.seen { grid-column: 3; font-size: 13px; text-align: right; }
.why { margin: 2px 0 0; color: var(--ink-2); font-size: 13px; }
.ways { display: flex; flex-wrap: wrap; gap: 6px; margin-top: 6px; }
.ways .el-button { margin: 0; }
.none { padding: 40px 0; text-align: center; }
@media (width < 900px) { .outbox { display: block; overflow-y: auto; } li { grid-template-columns: minmax(0, 1fr) auto; } li .time { grid-column: 1 / -1; } .seen { grid-column: 2; } }
</style>
