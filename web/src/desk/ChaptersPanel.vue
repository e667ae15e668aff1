<script setup lang="ts">
import { computed } from 'vue'
import DraftText from '@/shared/DraftText.vue'
import { clock } from '@/shared/format'
import type { useChapters } from './useChapters'

/** Chapters of the recording: times that are offered, names that the person gives. */
const props = defineProps<{ chapters: ReturnType<typeof useChapters>; source: number }>()
defineEmits<{ go: [seconds: number] }>()

const rows = computed(() =>
  [...props.chapters.chapters.value.map((each) => ({ ...each, named: true })), ...props.chapters.offered.value.map((start) => ({ start, title: '', named: false }))]
    .sort((a, b) => a.start - b.start))
const here = computed(() => Math.round(props.source * 100) / 100)
const beside = computed(() => rows.value.some((each) => Math.abs(each.start - here.value) < 1))
</script>

<template>
  <section class="chapters" aria-label="Chapters">
    <h2 class="sub">Chapters</h2>
    <p class="quiet">{{ rows.length ? 'Name those you want: they go into the words you save as TXT or VTT. An empty name takes one away.' : 'None are offered for this recording.' }}</p>
    <ul>
      <li v-for="each in rows" :key="each.start" :class="{ offered: !each.named }" data-test="chapter">
        <button class="time" :title="`Go to ${clock(each.start, false)}`" @click="$emit('go', each.start)">{{ clock(each.start, false) }}</button>
        <DraftText :value="each.title" maxlength="120" :aria-label="`Name of the chapter at ${clock(each.start, false)}`" placeholder="What is it about?" @keep="chapters.name(each.start, $event)" />
      </li>
    </ul>
    <el-button v-if="!beside" size="small" text @click="chapters.name(here, 'New chapter')">Begin one at {{ clock(here, false) }}</el-button>
  </section>
</template>

<style scoped>
.chapters { margin-top: 14px; border-top: 1px solid var(--rule); }
.sub { margin: 10px 0 2px; font-size: 14px; }
p { margin: 0 0 6px; font-size: 13px; }
ul { margin: 0; padding: 0; list-style: none; }
li { display: grid; grid-template-columns: 52px 1fr; gap: 6px; align-items: center; padding: 2px 0; }
button.time { padding: 0; border: 0; background: none; color: var(--pencil); text-align: left; cursor: pointer; }
li.offered button.time { color: var(--ink-2); }
input { min-width: 0; padding: 3px 6px; border: 1px solid var(--rule); border-radius: 4px; background: none; color: var(--ink); font-size: 13px; }
input:focus { background: #fff; }
</style>
