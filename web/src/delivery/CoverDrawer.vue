<script setup lang="ts">
import { computed, onMounted, ref, toRef, watch } from 'vue'
import { closing, useCommands } from '@/commands/registry'
import type { Doc } from '@/document/useDocument'
import { clock } from '@/shared/format'
import type { Choices } from '@/shared/useChoices'
import { pictureOf, useCover } from './useCover'

/** The cover of the clip: one of its frames, the best of them offered, with a title over it if wanted. */
const props = defineProps<{ doc: Doc; choices: Choices; time: number }>()
const emit = defineEmits<{ close: []; go: [seconds: number] }>()

const { cover, choose, offered, looking, error, setOwn } = useCover(toRef(() => props.doc.id), toRef(() => props.doc.edition), toRef(() => props.doc.version))
const heading = ref<HTMLElement | null>(null)
const text = ref('')
watch(() => cover.value?.text, (now) => { text.value = now ?? '' }, { immediate: true })
const outlet = computed(() => props.doc.editions.find((each) => each.id === props.doc.edition)?.name ?? '')
const shape = computed(() => `${props.doc.plan.width} / ${props.doc.plan.height}`)
const picture = computed(() => cover.value && pictureOf(props.doc.id, props.doc.edition, props.doc.version, cover.value))
const frame = (seconds: number) => pictureOf(props.doc.id, props.doc.edition, props.doc.version, { seconds, text: '', template: '' })
const drawn = ref(false)
const failed = ref(false)
watch(picture, () => {
  drawn.value = false
  failed.value = false
})
const file = (kind: string) => `/api/documents/${props.doc.id}/editions/${props.doc.edition}/cover.${kind}`
const written = (now: string) => choose({ text: now.trim() })
const take = (n: number) => { const one = offered.value[n]; if (one) void choose({ seconds: one.seconds }) }

const where = '[data-cover-panel]'
useCommands(() => [
  ...closing('close-cover', () => emit('close'), where),
  ...offered.value.map((_, n) => ({ id: `cover-${n + 1}`, label: `Frame ${n + 1} of those offered`, keys: [String(n + 1)], run: () => take(n) })),
])
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="drawer" aria-label="Cover" data-cover-panel>
    <header>
      <h2 ref="heading" tabindex="-1">Cover</h2>
      <el-button text @click="$emit('close')">Close</el-button>
    </header>
    <p v-if="error" class="alarm" role="alert">{{ error.message }}</p>
    <template v-if="cover">
      <span class="frame" :style="{ aspectRatio: shape }" :class="{ waits: !drawn }">
        <img v-if="!failed" :src="picture!" :alt="`Cover for ${outlet}, at ${clock(cover.seconds)}`" data-test="cover" @load="drawn = true" @error="failed = true">
        <span v-else class="quiet">It cannot be drawn now. Is a recording of this clip still being prepared?</span>
      </span>
      <div class="row">
        <el-button size="small" @click="choose({ seconds: time })">Use what is on the stage ({{ clock(time) }})</el-button>
        <el-button size="small" text @click="$emit('go', cover.seconds)">Show {{ clock(cover.seconds) }}</el-button>
      </div>
      <h3>Frames that would do</h3>
      <p v-if="looking" class="quiet" role="status">Looking for sharp ones…</p>
      <p v-else-if="!offered.length" class="quiet">There is no film in this clip to take one from.</p>
      <ul v-else>
        <li v-for="(each, n) in offered" :key="each.seconds">
          <button class="offer" :style="{ aspectRatio: shape }" :aria-pressed="Math.abs(each.seconds - cover.seconds) < 0.02" :aria-label="`The frame at ${clock(each.seconds)}`" @click="take(n)">
            <img :src="frame(each.seconds)" alt=""><kbd>{{ n + 1 }}</kbd>
          </button>
        </li>
      </ul>
      <h3>Title over it</h3>
      <el-input v-model="text" size="small" :maxlength="160" placeholder="None" aria-label="Title over it" @change="written" />
      <el-button v-if="!cover.text && cover.suggested" size="small" @click="choose({ text: cover.suggested })">“{{ cover.suggested }}”</el-button>
      <el-select v-if="cover.text" :model-value="cover.template" size="small" aria-label="Template of the title" @change="choose({ template: $event })">
        <el-option v-for="each in choices.templates" :key="each.key" :value="each.key" :label="`${each.name} (${each.sort.toLowerCase()})`" />
      </el-select>
      <el-checkbox v-if="doc.editions.length > 1" :model-value="cover.own" @change="setOwn($event as boolean)">For {{ outlet }} alone</el-checkbox>
      <div class="row"><a :href="file('png')" download>Download PNG</a><a :href="file('jpg')" download>JPEG</a></div>
    </template>
  </section>
</template>

<style scoped>
.drawer { display: flex; flex-direction: column; gap: 10px; align-items: flex-start; height: 100%; padding: 14px 16px; overflow-y: auto; background: var(--paper); }
.drawer > * { flex: none; }
header { display: flex; align-items: center; justify-content: space-between; width: 100%; }
h2:focus { outline: none; }
h3 { margin: 4px 0 0; font-size: 14px; }
p { margin: 0; font-size: 13px; }
.frame { display: grid; max-width: 100%; height: 250px; place-items: center; background: var(--paper-2); }
.frame img { width: 100%; height: 100%; }
.waits img { opacity: 0.4; }
.row { display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; font-size: 14px; }
.row .el-button { margin: 0; }
ul { display: grid; grid-template-columns: repeat(5, 1fr); gap: 6px; width: 100%; margin: 0; padding: 0; list-style: none; }
.offer { position: relative; display: block; width: 100%; padding: 0; border: 2px solid transparent; background: var(--paper-2); cursor: pointer; }
.offer[aria-pressed='true'] { border-color: var(--pencil); }
.offer img { position: absolute; inset: 0; width: 100%; height: 100%; object-fit: cover; }
kbd { position: absolute; top: 2px; left: 2px; padding: 0 4px; background: var(--paper); font: 11px var(--mono); }
</style>
