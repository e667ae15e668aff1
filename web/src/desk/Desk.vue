<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, ref, toRef, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import CommandButton from '@/commands/CommandButton.vue'
import { useCommands } from '@/commands/registry'
import HistoryDrawer from '@/document/HistoryDrawer.vue'
import Occurrences from '@/document/Occurrences.vue'
import { tooLong } from '@/player/timeline'
import { busy } from '@/recordings/recording'
import { clock } from '@/shared/format'
import { deskCommands } from './commands'
import DeskBar from './DeskBar.vue'
import DeskNotices from './DeskNotices.vue'
import DeskSide from './DeskSide.vue'
import FindBar from './FindBar.vue'
import Spine from './Spine.vue'
import { TABS, type Tab } from './tabs'
import TranscriptPage from './TranscriptPage.vue'
import { useDeskPage } from './useDeskPage'

/** The page of a recording: the whole of it at the left, its words, its picture and the panels. */
const props = defineProps<{ id: string }>()
const route = useRoute()
const came = TABS.find(([key]) => route.hash === `#${key}`)?.[0] ?? null
const tab = ref<Tab>(came ?? 'sweep')
const page = useDeskPage(toRef(props, 'id'), tab, came)
const { doc, now, sheet, transcript, player, chosen, selected, lasts, marked, fixing, finding, found, history, choices, clips, goTo, hearAround } = page
useCommands(() => deskCommands(page))

const words = useTemplateRef<InstanceType<typeof TranscriptPage>>('words')
watch(words, (there) => (page.words.value = there), { flush: 'post' })
const finder = useTemplateRef<InstanceType<typeof FindBar>>('finder')
watch(finder, (there) => (page.finder.value = there), { flush: 'post' })
const narrow = useMediaQuery('(width < 900px)')
const panel = ref(false) // where there is no room for it beside the page, the panel is a drawer
const saved = computed(() => (doc.value ? doc.value.uncut - doc.value.seconds : 0))

function closeHistory() {
  history.value = false
  words.value?.focus()
}

function closeFind() {
  finding.value = false
  words.value?.focus()
}
</script>

<template>
  <Teleport defer to="#crumbs">
    <h1 class="title">{{ now?.title }}</h1>
    <span v-if="doc" class="time quiet length" data-test="length">
      {{ clock(doc.seconds) }}<template v-if="saved > 0.05"> of {{ clock(doc.uncut) }}, {{ saved.toFixed(1) }} s saved</template>
    </span>
  </Teleport>
  <Teleport defer to="#actions">
    <span v-if="lasts !== null && doc" class="time" :class="tooLong(doc.outlet, lasts) ? 'alarm' : 'quiet'" role="status" data-test="selected">
      {{ clock(lasts) }} of {{ clock(doc.outlet.longest, false) }}
    </span>
    <CommandButton v-if="!selected.length" id="make-whole-clip" class="whole" text>Whole recording as a clip</CommandButton>
    <CommandButton id="make-clip" type="primary" :off="!selected.length" why="Select a passage first" />
    <el-button v-if="narrow" :aria-expanded="panel" @click="panel = !panel">Panel</el-button>
  </Teleport>
  <div class="desk">
    <Spine
      v-if="now" class="spine-column" :duration="now.duration" :skyline="now.skyline" :plan="sheet.plan.value" :clips="clips.clips.value" :passages="marked"
      :chapters="page.chapters.chapters.value" :source="player.source.value" :transcript="transcript.data.value ?? null" @go="goTo"
    />
    <div class="middle">
      <DeskBar :page="page" />
      <FindBar
        v-if="finding" ref="finder" :recording-id="id" :words="transcript.data.value?.words ?? []" :words-at="transcript.data.value?.words_at ?? 0" @found="found = $event"
        @show="words?.selectWords($event)" @go="goTo" @replace="fixing.lookEverywhere" @close="closeFind"
      />
      <DeskNotices :page="page" />
      <TranscriptPage
        v-if="transcript.data.value?.words.length" ref="words" :transcript="transcript.data.value" :doc="doc" :source="player.source.value" :playing="player.playing.value" :found="found"
        :doubtful="choices?.doubtful ?? 0" :spoken-for="choices?.spoken_for ?? 0" :passages="marked"
        @go="player.seekSource" @selected="chosen = $event" @rewrite="page.rewrite" @correct="sheet.correct"
      />
      <p v-else-if="transcript.isPending.value" class="empty quiet" role="status">Reading the transcript…</p>
      <p v-else-if="now && busy(now, ['bringing in'])" class="empty quiet">The first words appear here as soon as they are heard.</p>
      <p v-else-if="transcript.data.value?.complete" class="empty quiet">There are no words in this recording.</p>
    </div>
    <div v-if="narrow && panel" class="drawer-shade" @click="panel = false"></div>
    <DeskSide v-model:tab="tab" :class="{ drawer: narrow, open: panel }" :page="page" :saved="saved" />
    <HistoryDrawer v-if="history && doc" class="over" :doc="doc" @back="sheet.goBack" @close="closeHistory" />
    <Occurrences :places="fixing.places.value" :title="fixing.title.value" @apply="fixing.apply" @close="fixing.places.value = null" @hear="(at) => hearAround(at, at + 0.5)" />
  </div>
</template>

<style scoped>
.desk { position: relative; display: grid; grid-template-columns: 56px minmax(0, 1fr) 340px; height: 100%; overflow: hidden; }
.spine-column { grid-column: 1; }
.middle { display: flex; flex-direction: column; grid-column: 2; min-height: 0; border-right: 1px solid var(--rule); }
.middle > .frame { flex: 1; }
.over { position: absolute; top: 0; right: 0; bottom: 0; z-index: 10; width: min(340px, 100%); border-left: 1px solid var(--rule); }
.title { overflow: hidden; font-size: 16px; text-overflow: ellipsis; white-space: nowrap; }
.length { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.empty { padding: 60px; text-align: center; }
@media (width < 900px) {
  .whole { display: none; } /* it is among the commands, and beside the passages */
}
@media (width < 480px) {
  .title { display: none; }
}
@media (width >= 1600px) {
  .desk { grid-template-columns: 64px minmax(0, 1fr) 520px; }
}
@media (width < 1180px) {
  .desk { grid-template-columns: 40px minmax(0, 1fr) 290px; }
}
@media (width < 900px) {
  .desk { grid-template-columns: 24px minmax(0, 1fr); }
}
</style>
