<script setup lang="ts">
import { useInfiniteScroll, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useCommands } from '@/commands/registry'
import PackageDialog from '@/delivery/PackageDialog.vue'
import { moment } from '@/shared/format'
import { useFirst } from '@/shared/useFirst'
import DutyDialog from './DutyDialog.vue'
import { dayOf, isOut, narrowed, WEEKS, type BoardClip, type Cell, type Narrowing } from './narrowing'
import PlanDialog from './PlanDialog.vue'
import StateMark from './StateMark.vue'
import { useBoard } from './useBoard'

/** Clips down, outlets across, in each cell how far that edition is; several are chosen and exported, packed, planned at once. */
const MANY = 30 // rows that are drawn at once
const ALL: Narrowing = { text: '', show: '', person: '', state: '', week: '' }
const { query, board, exporting, agree, exportAll } = useBoard()
const wanted = useLocalStorage<Narrowing>('hovvet-board', { ...ALL }, { mergeDefaults: true })
const clips = computed(() => narrowed(board.value?.clips ?? [], wanted.value, new Date()))
const isNarrowed = computed(() => Object.values(wanted.value).some(Boolean))
const shows = computed(() => [...new Set((board.value?.clips ?? []).flatMap((clip) => clip.shows))].sort())
const { first, left, more } = useFirst(clips, MANY)
const around = ref<HTMLElement | null>(null)
useInfiniteScroll(around, more, { distance: 500, canLoadMore: () => left.value > 0 })

const ids = ref(new Set<string>())
const chosen = computed(() => clips.value.filter((clip) => ids.value.has(clip.id)))
const everyone = computed(() => clips.value.length > 0 && chosen.value.length === clips.value.length)
const chooseAll = () => (ids.value = new Set(everyone.value ? [] : clips.value.map((clip) => clip.id)))
function choose(clip: BoardClip) {
  const now = new Set(ids.value)
  if (!now.delete(clip.id)) now.add(clip.id)
  ids.value = now
}
const dialog = ref<'plan' | 'package' | 'duty' | null>(null)
const today = computed(() => dayOf(new Date()))
const overdue = (clip: BoardClip) => clip.due != null && clip.due < today.value && !isOut(clip)
const cells = (clip: BoardClip, outlet: string) => clip.cells.filter((each) => each.outlet === outlet)
const PANELS: Partial<Record<Cell['state'], string>> = { none: 'export', making: 'export', failed: 'export', exported: 'export', changed: 'export', review: 'review', changes: 'review', approved: 'review' }
const way = (clip: BoardClip, cell: Cell) =>
  PANELS[cell.state] ? { name: 'sheet', params: { id: clip.id }, query: { edition: cell.edition, panel: PANELS[cell.state] } } : { name: 'outbox', query: { clip: clip.id } }
const states = computed(() => board.value?.states ?? {})

/** To the row below or above the one where the focus is. */
function walk(by: number) {
  const rows = [...(around.value?.querySelectorAll<HTMLInputElement>('tbody input') ?? [])]
  const at = rows.findIndex((each) => each.closest('tr')!.contains(document.activeElement))
  const to = Math.min(Math.max(at + by, 0), rows.length - 1)
  if (to >= rows.length - 3 && left.value) more()
  rows[to]?.focus()
}
const some = () => chosen.value.length > 0
const FIRST = 'Choose some clips first.'
useCommands(() => [
  { id: 'board-next', label: 'The next clip', keys: ['Down'], where: '[data-board]', run: () => walk(1) },
  { id: 'board-before', label: 'The clip before', keys: ['Up'], where: '[data-board]', run: () => walk(-1) },
  { id: 'board-all', label: everyone.value ? 'Choose none' : 'Choose all clips', keys: ['Ctrl+A'], enabled: () => clips.value.length > 0, run: chooseAll },
  { id: 'board-export', label: 'Export', keys: ['X'], enabled: some, why: FIRST, run: () => void exportAll(chosen.value) },
  { id: 'board-package', label: 'Package…', keys: ['K'], enabled: some, why: FIRST, run: () => (dialog.value = 'package') },
  { id: 'board-plan', label: 'Plan…', keys: ['P'], enabled: some, why: FIRST, run: () => (dialog.value = 'plan') },
  { id: 'board-duty', label: 'Day and person…', keys: ['D'], enabled: some, why: FIRST, run: () => (dialog.value = 'duty') },
])
async function closed() {
  dialog.value = null
  await nextTick()
  around.value?.querySelector<HTMLElement>('tbody input:checked')?.focus()
}
</script>

<template>
  <div class="narrow" role="search" aria-label="Narrow the board">
    <el-input v-model="wanted.text" size="small" clearable placeholder="Find a clip" aria-label="Find a clip" />
    <select v-model="wanted.show" aria-label="Show"><option value="">All shows</option><option v-for="each in shows" :key="each">{{ each }}</option></select>
    <select v-model="wanted.person" aria-label="Person"><option value="">Everybody</option><option v-for="each in board?.people" :key="each">{{ each }}</option></select>
    <select v-model="wanted.week" aria-label="Week"><option value="">Any day</option><option v-for="(name, key) in WEEKS" :key="key" :value="key">{{ name }}</option></select>
    <select v-model="wanted.state" aria-label="State"><option value="">Any state</option><option v-for="(name, key) in states" :key="key" :value="key">{{ name }}</option></select>
    <el-button v-if="isNarrowed" size="small" text @click="wanted = { ...ALL }">Show all</el-button>
    <span class="grow" />
    <span class="quiet" role="status">{{ chosen.length ? `${chosen.length} of ${clips.length} chosen` : `${clips.length} ${clips.length === 1 ? 'clip' : 'clips'}` }}</span>
    <el-button size="small" :disabled="!chosen.length" title="Export what is not there, or not as its clip is (X)" data-test="board-export" @click="exportAll(chosen)">Export</el-button>
    <el-button size="small" :disabled="!chosen.length" title="All that goes with these clips in one file (K)" data-test="board-package" @click="dialog = 'package'">Package…</el-button>
    <el-button size="small" :disabled="!chosen.length" title="By when, and who sees to it (D)" @click="dialog = 'duty'">Day and person…</el-button>
    <el-button size="small" type="primary" :disabled="!chosen.length" title="Send them, or choose when (P)" data-test="board-plan" @click="dialog = 'plan'">Plan…</el-button>
  </div>
  <div v-if="exporting" class="told" role="status">
    <span>{{ exporting.done < exporting.of ? `Beginning exports: ${exporting.done} of ${exporting.of}` : exporting.of ? `${exporting.of - exporting.wrong.length} of ${exporting.of} clips are being exported.` : 'All of these are exported as they are.' }}</span>
    <ul v-if="exporting.wrong.length"><li v-for="each in exporting.wrong" :key="each" class="alarm">{{ each }}</li></ul>
    <el-button size="small" text @click="exporting = null">Hide</el-button>
  </div>
  <p v-if="query.error.value" class="none" role="alert">{{ query.error.value.message }}</p>
  <p v-else-if="board && !board.clips.length" class="none">There are no clips yet. <RouterLink :to="{ name: 'recordings' }">Open a recording</RouterLink>, choose a passage and make a clip of it: it appears here with every outlet that it is made for.</p>
  <p v-else-if="board && !clips.length" class="none">No clip is like that. <button class="link" @click="wanted = { ...ALL }">Show all {{ board.clips.length }}</button></p>
  <div v-show="clips.length" ref="around" class="around" data-board>
    <table>
      <thead>
        <tr>
          <th class="pick"><input type="checkbox" aria-label="Choose all" :checked="everyone" @change="chooseAll"></th>
          <th>Clip</th><th class="who">Person</th><th>Due</th>
          <th v-for="each in board?.columns" :key="each.key">{{ each.name }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="clip in first" :key="clip.id" :class="{ chosen: ids.has(clip.id) }" data-test="board-row">
          <td class="pick"><input type="checkbox" :aria-label="`Choose ${clip.title}`" :checked="ids.has(clip.id)" @change="choose(clip)"></td>
          <th scope="row"><RouterLink :to="{ name: 'sheet', params: { id: clip.id } }">{{ clip.title }}</RouterLink><small v-if="clip.shows.length" class="quiet">{{ clip.shows.join(', ') }}</small></th>
          <td class="who">{{ clip.person || '–' }}</td>
          <td class="time" :class="{ alarm: overdue(clip) }">{{ clip.due ? moment(`${clip.due}T00:00`).split(',')[0] : '–' }}<span v-if="overdue(clip)"> overdue</span></td>
          <td v-for="each in board?.columns" :key="each.key">
            <RouterLink v-for="cell in cells(clip, each.key)" :key="cell.edition" :to="way(clip, cell)" class="cell" :title="cell.sendings.map((one) => one.told).find(Boolean)">
              <StateMark :state="cell.state" :name="states[cell.state] ?? ''" />
              <small v-if="cell.sendings.length" class="quiet">{{ moment(cell.sendings[0]!.at) }}</small>
            </RouterLink>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <PackageDialog v-if="dialog === 'package'" :clips="chosen.map((each) => each.id)" @close="closed" />
  <PlanDialog v-if="dialog === 'plan'" :clips="chosen" @close="closed" />
  <DutyDialog v-if="dialog === 'duty' && board" :clips="chosen" :people="board.people" @agree="agree" @close="closed" />
</template>

<style scoped>
.narrow { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; padding: 12px 24px; border-bottom: 1px solid var(--rule); }
.narrow .el-input { width: 150px; }
.narrow .el-button { margin: 0; }
select { max-width: 150px; padding: 3px 4px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 13px; }
.grow { flex: 1; }
.told { display: flex; flex-wrap: wrap; gap: 4px 12px; align-items: center; padding: 6px 24px; background: var(--paper-2); font-size: 13px; }
.told ul { flex-basis: 100%; max-height: 90px; margin: 0; padding-left: 18px; overflow-y: auto; }
.none { padding: 60px 24px; text-align: center; }
.around { flex: 1; min-height: 0; padding: 0 24px 24px; overflow: auto; }
table { width: 100%; border-collapse: collapse; font-size: 14px; }
thead th { position: sticky; top: 0; z-index: 1; padding: 10px 10px 6px; background: var(--paper); color: var(--ink-2); font-size: 13px; font-weight: 500; text-align: left; white-space: nowrap; }
tbody tr { border-top: 1px solid var(--rule); }
tbody tr.chosen { background: var(--paper-2); }
td, tbody th { padding: 8px 10px; text-align: left; vertical-align: top; }
tbody th { min-width: 200px; font-weight: 500; }
tbody th a { color: var(--ink); text-decoration: none; }
tbody th a:hover { text-decoration: underline; }
small { display: block; font-size: 12px; font-weight: 400; }
.time { white-space: nowrap; }
.pick { width: 30px; padding-right: 0; }
.cell { display: block; padding: 1px 4px; border-radius: 4px; color: var(--ink); text-decoration: none; }
.cell:hover { background: var(--paper-2); }
.cell small { padding-left: 15px; }
@media (width < 600px) {
  .narrow, .around { padding-right: 12px; padding-left: 12px; }
  .who { display: none; }
}
</style>
