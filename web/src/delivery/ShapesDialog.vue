<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { clock } from '@/shared/format'
import { useChoices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { useHouse } from '@/document/useHouse'
import { useOutlets } from '@/document/useOutlets'
import { pictureOf, type Shape } from './shapes'

/** A clip in the shapes that are wanted of it, beside one another, before they are kept. */
const props = defineProps<{ doc: Doc; time: number }>()
const emit = defineEmits<{ close: []; keep: [shapes: Shape[], house: string] }>()

const open = ref(true)
const choices = useChoices()
const { outlets } = useOutlets()
const { houses } = useHouse()
const house = ref(props.doc.sheet.house?.key ?? '')
const dressing = ref<NonNullable<Shape['dressing']>>('dressed')
const part = ref(props.doc.seconds ? Math.min(props.time / props.doc.seconds, 1) : 0)

/** One of each shape at first, those that the clip is made in among them. */
const chosen = ref<string[]>([])
watch(outlets, (all) => {
  if (chosen.value.length) return
  const there = new Set((props.doc.sheet.editions ?? []).map((each) => each.outlet ?? 'tall'))
  const ordered = [...all].sort((a, b) => Number(there.has(b.key)) - Number(there.has(a.key)))
  const shapes = new Map<number, string>()
  for (const { key, width, height } of ordered) if (!shapes.has(width / height)) shapes.set(width / height, key)
  chosen.value = [...shapes.values()]
}, { immediate: true })

const shown = computed(() => outlets.value.filter((each) => chosen.value.includes(each.key)))
const across = computed(() => shown.value.reduce((sum, each) => sum + each.width / each.height, 0)) // of one as tall as wide
const shapes = computed<Shape[]>(() => shown.value.map((each) => ({ outlet: each.key, dressing: dressing.value })))
const missing = computed(() => shapes.value.filter((shape) => !(props.doc.sheet.editions ?? []).some((each) => (each.outlet ?? 'tall') === shape.outlet && (each.dressing ?? 'dressed') === shape.dressing)))
const does = computed(() => [missing.value.length ? `keep ${missing.value.length} more edition${missing.value.length > 1 ? 's' : ''}` : '', house.value && house.value !== props.doc.sheet.house?.key ? 'dress the clip' : ''].filter(Boolean).join(', '))
const failed = ref(new Set<string>())
watch([house, dressing, part], () => (failed.value = new Set()))

function keep() {
  emit('keep', shapes.value, house.value)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" title="Shapes side by side" width="min(1080px, 96vw)" top="5vh" @closed="$emit('close')">
    <div class="settings">
      <el-select v-model="chosen" multiple collapse-tags collapse-tags-tooltip :max-collapse-tags="2" aria-label="Shapes to see" placeholder="Choose outlets">
        <el-option v-for="each in outlets" :key="each.key" :value="each.key" :label="`${each.name}, ${each.width} × ${each.height}`" />
      </el-select>
      <el-select v-model="house" aria-label="House style" :empty-values="[undefined]">
        <el-option value="" label="As this clip looks" />
        <el-option v-for="each in houses" :key="each.key" :value="each.key" :label="`In the style “${each.name}”`" />
      </el-select>
      <el-radio-group v-model="dressing" size="small" aria-label="Styling">
        <el-radio-button v-for="(name, key) in choices?.dressings" :key="key" :value="key">{{ name }}</el-radio-button>
      </el-radio-group>
    </div>
    <p v-if="!shown.length" class="quiet">Choose an outlet to see this clip in its shape.</p>
    <div class="room"><div class="shapes" :style="{ '--across': across, '--gaps': shown.length - 1 }">
      <figure v-for="(each, n) in shown" :key="each.key" data-test="shape">
        <span class="frame" :style="{ aspectRatio: `${each.width} / ${each.height}` }">
          <img v-if="!failed.has(each.key)" :src="pictureOf(doc, shapes[n]!, house, part)" :alt="`This clip for ${each.name}`" @error="failed.add(each.key)">
          <span v-else class="quiet">This shape cannot be drawn now. Is a recording of this clip still being prepared? <button class="link" @click="failed.delete(each.key)">Try again</button></span>
        </span>
        <figcaption>
          <b>{{ each.name }}</b>
          <span class="quiet">{{ each.width }} × {{ each.height }}</span>
          <span v-if="doc.seconds > each.longest" class="alarm">{{ (doc.seconds - each.longest).toFixed(1) }} s too long</span>
        </figcaption>
      </figure>
    </div></div>
    <label class="part">
      <span>Seen at&nbsp; <span class="time">{{ clock(part * doc.seconds) }}</span></span>
      <el-slider v-model="part" :min="0" :max="1" :step="0.02" :show-tooltip="false" aria-label="Moment of the clip that is seen" />
    </label>
    <template #footer>
      <span class="quiet will">{{ does ? `This will ${does}; it can be undone.` : 'The clip is made in these shapes already.' }}</span>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" :disabled="!does" data-test="keep-shapes" @click="keep">Keep these</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.settings { display: grid; grid-template-columns: 1.4fr 1.2fr auto; gap: 10px; align-items: center; margin-bottom: 14px; }
.room { container-type: inline-size; }
.shapes { display: flex; gap: 18px; align-items: flex-end; justify-content: center; min-height: 300px; }
figure { display: flex; flex-direction: column; gap: 6px; margin: 0; }
.frame { display: flex; align-items: center; justify-content: center; height: min(380px, (100cqw - var(--gaps) * 18px) / var(--across)); background: var(--paper-2); }
.frame img { width: 100%; height: 100%; }
figcaption { display: flex; flex-direction: column; font-size: 13px; line-height: 1.35; }
.will { margin-right: 14px; font-size: 14px; }
.part { display: grid; grid-template-columns: 130px 1fr; gap: 12px; align-items: center; margin-top: 10px; font-size: 14px; }
p { margin: 0; font-size: 14px; }
</style>
