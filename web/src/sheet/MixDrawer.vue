<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import DraftSlider from '@/shared/DraftSlider.vue'
import { focusFirst } from '@/shared/focus'
import type { Choices } from '@/shared/useChoices'
import type { Content, Doc, Edit } from '@/document/useDocument'
import { SPEECH } from './solo'

/** All that is heard in the clip beside its speech: how loud each is, several set at once, one of them heard alone. */
const props = defineProps<{ doc: Doc; choices: Choices; solo: string | null }>()
const emit = defineEmits<{ close: []; edit: [edits: Edit[]]; solo: [layer: string | null]; open: [layer: string] }>()

const panel = ref<HTMLElement | null>(null)
const heard = computed(() => props.doc.bars.filter((each) => each.volume !== null && each.volume !== undefined))
const chosen = ref<string[]>([])
const choose = (layer: string, is: boolean) => (chosen.value = is ? [...chosen.value, layer] : chosen.value.filter((each) => each !== layer))
const there = computed(() => chosen.value.filter((id) => heard.value.some((each) => each.layer === id)))
const fieldOf = (kind: string) => (props.choices.contents[kind]?.properties as Record<string, { minimum?: number; maximum?: number }>).volume!
const SILENT = computed(() => Math.min(...heard.value.map((each) => fieldOf(each.kind).minimum ?? 0)))

/** Set the volume of layers, all in one change. */
function set(ids: string[], volumeOf: (now: number) => number) {
  const layers = (props.doc.sheet.layers ?? []).filter((each) => ids.includes(each.id))
  emit('edit', layers.map((layer) => {
    const { minimum = SILENT.value, maximum = 0 } = fieldOf(layer.content.kind)
    const now = (layer.content as { volume?: number }).volume ?? 0
    return { type: 'put_layer' as const, layer: { ...layer, content: { ...layer.content, volume: Math.min(Math.max(volumeOf(now), minimum), maximum) } as Content } }
  }))
}
const THIRD = -9.5 // dB: a third of the amplitude
const hear = (layer: string) => emit('solo', props.solo === layer ? null : layer)
useCommands(() => [...closing('close-mix', () => emit('close'), '[data-mix-panel]')])
onMounted(() => focusFirst(panel.value))
</script>

<template>
  <section ref="panel" class="drawer" aria-label="Sound levels" data-mix-panel>
    <header>
      <h2 tabindex="-1">Sound levels</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <div class="line" data-test="mix-line">
      <span class="name"><b>Speech</b></span>
      <el-button size="small" :type="solo === SPEECH ? 'primary' : undefined" :aria-pressed="solo === SPEECH" @click="hear(SPEECH)">Solo</el-button>
    </div>
    <p class="quiet">It is brought to the loudness of the outlet; all else is set beside it.</p>
    <p v-if="!heard.length" class="quiet">Nothing else is heard in this clip yet. <b>Add</b> has music, sounds, a voice-over and narration.</p>
    <div v-if="heard.length > 1" class="all" role="group" aria-label="Those that are chosen">
      <el-checkbox :model-value="there.length === heard.length" :indeterminate="there.length > 0 && there.length < heard.length" @change="chosen = $event ? heard.map((each) => each.layer) : []">{{ there.length ? `${there.length} chosen` : 'Choose all' }}</el-checkbox>
      <template v-if="there.length">
        <el-button size="small" @click="set(there, (now) => now - 3)">3 dB softer</el-button>
        <el-button size="small" @click="set(there, (now) => now + 3)">3 dB louder</el-button>
        <el-button size="small" @click="set(there, () => THIRD)">To a third</el-button>
        <el-button size="small" @click="set(there, () => SILENT)">Mute</el-button>
        <el-button size="small" @click="set(there, () => 0)">As loud as the speech</el-button>
      </template>
    </div>
    <div v-for="each in heard" :key="each.layer" class="line" data-test="mix-line">
      <el-checkbox :model-value="chosen.includes(each.layer)" :aria-label="`Choose ${each.label}`" @change="choose(each.layer, $event as boolean)" />
      <button class="link name" :title="each.label" @click="$emit('open', each.layer)">{{ each.label }}</button>
      <el-button size="small" :type="solo === each.layer ? 'primary' : undefined" :aria-pressed="solo === each.layer" @click="hear(each.layer)">Solo</el-button>
      <DraftSlider :value="each.volume!" :least="fieldOf(each.kind).minimum" :most="fieldOf(each.kind).maximum" :step="0.5" :label="`Volume of ${each.label} (dB)`" @keep="set([each.layer], () => $event)" />
      <span class="time">{{ each.volume! <= SILENT ? 'muted' : 'dB' }}</span>
    </div>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 12px; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
header { display: flex; gap: 8px; align-items: center; justify-content: space-between; }
h2:focus { outline: none; }
p { margin: 0; font-size: 13px; }
.line { display: grid; grid-template-columns: auto minmax(0, 1fr) auto; gap: 2px 8px; align-items: center; font-size: 14px; }
.line .name:first-child { grid-column: 1 / 3; }
.name { overflow: hidden; text-align: left; text-overflow: ellipsis; white-space: nowrap; }
.line .slide { grid-column: 1 / 3; }
.line > .time { min-width: 44px; font-size: 12px; }
.all { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; padding: 8px 0; border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); }
.all .el-button { margin: 0; }
</style>
