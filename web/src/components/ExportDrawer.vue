<script setup lang="ts">
import { onMounted, ref, toRef } from 'vue'
import { useCommands } from '@/commands/registry'
import { clock, size } from '@/composables/format'
import type { Doc } from '@/composables/useDocument'
import { useExports, type Export } from '@/composables/useExports'
import JobLine from './JobLine.vue'

const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: [] }>()
const { exports, start, retry, remove, cancel } = useExports(toRef(() => props.doc.id))
const heading = ref<HTMLElement | null>(null)
const watching = ref<string | null>(null)
const starting = ref(false)

async function begin() {
  starting.value = true
  await start()
  starting.value = false
}

useCommands(() => [{ id: 'close-export', label: 'Close', keys: ['Escape'], run: () => emit('close') }])
onMounted(() => heading.value?.focus())

function file(each: Export, kind: string, save = true) {
  return `/api/exports/${each.id}/files/${kind}${save ? '?save=true' : ''}`
}
</script>

<template>
  <section class="drawer" aria-label="Export">
    <header>
      <h2 ref="heading" tabindex="-1">Export</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <dl>
      <dt>Outlet</dt>
      <dd>{{ doc.outlet.name }}, {{ doc.outlet.width }} × {{ doc.outlet.height }}</dd>
      <dt>Length</dt>
      <dd class="time">{{ clock(doc.seconds) }} of {{ clock(doc.outlet.longest, false) }}</dd>
      <dt>Captions</dt>
      <dd>{{ doc.sheet.captions ? 'burnt in' : 'none' }}</dd>
    </dl>
    <p v-if="doc.seconds > doc.outlet.longest" class="alarm">
      This is {{ (doc.seconds - doc.outlet.longest).toFixed(1) }} s too long for the {{ doc.outlet.name }}. Cut some words, or export all the same.
    </p>
    <el-button type="primary" :loading="starting" :disabled="!doc.plan.frames" data-test="export" @click="begin">
      Export for {{ doc.outlet.name }}
    </el-button>
    <p v-if="!exports.length" class="quiet">You get an MP4 to post, and its captions as SRT and VTT.</p>
    <article v-for="each in exports" :key="each.id" :data-ready="each.ready">
      <div class="head">
        <b>{{ each.outlet_name }}</b>
        <span class="time quiet">{{ clock(each.seconds) }}</span>
        <span v-if="each.ready" class="quiet">{{ size(each.bytes) }}</span>
        <el-tag v-if="each.ready && !each.current" size="small" type="warning">Clip changed since</el-tag>
      </div>
      <JobLine v-if="each.job && !each.ready" :job="each.job" :name="`Export for ${each.outlet_name}`" @cancel="cancel(each)" @retry="retry(each)" />
      <template v-if="each.ready">
        <video v-if="watching === each.id" :src="file(each, 'mp4', false)" controls autoplay></video>
        <div class="links">
          <el-button size="small" @click="watching = watching === each.id ? null : each.id">
            {{ watching === each.id ? 'Hide' : 'Watch' }}
          </el-button>
          <a :href="file(each, 'mp4')" download>MP4</a>
          <a :href="file(each, 'srt')" download>SRT</a>
          <a :href="file(each, 'vtt')" download>VTT</a>
          <span class="grow" />
          <el-button text size="small" @click="remove(each)">Delete</el-button>
        </div>
      </template>
    </article>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 12px; padding: 14px 16px; height: 100%; overflow-y: auto; background: var(--paper); }
h2:focus { outline: none; }
header { display: flex; align-items: center; justify-content: space-between; }
dl { display: grid; grid-template-columns: 80px 1fr; gap: 4px; margin: 0; font-size: 14px; }
dt { color: var(--ink-2); }
dd { margin: 0; }
p { margin: 0; font-size: 14px; }
article { display: flex; flex-direction: column; gap: 8px; padding-top: 12px; border-top: 1px solid var(--rule); }
.head { display: flex; gap: 8px; align-items: baseline; font-size: 14px; }
.links { display: flex; gap: 12px; align-items: center; font-size: 14px; }
.grow { flex: 1; }
video { width: 100%; max-height: 380px; background: var(--ink); }
</style>
