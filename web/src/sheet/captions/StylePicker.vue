<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { computed, ref } from 'vue'
import { sureToDelete } from '@/shared/ask'
import type { Choices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { useStyleChange, type ChooseStyle } from './useStyleChange'
import type { CaptionStyle } from './useStyles'
import StyleForm from './StyleForm.vue'

/** The style of a clip's captions: chosen, changed for this clip, and kept for others. `words` are what samples show. */
const props = defineProps<{ sheet: Doc['sheet']; choices: Choices; words: string; choose: ChooseStyle }>()

const { styles, add, change, remove, kept, now, changed } = useStyleChange(() => props.sheet, () => props.choices, (...of) => props.choose(...of))
async function discard() {
  if (kept.value && (await sureToDelete(`Delete “${kept.value.name}”?`, 'Clips with this style stay as they are.'))) await remove(kept.value.key)
}
const differs = computed(() => !!props.sheet.style && JSON.stringify(now.value) !== JSON.stringify(kept.value))
const name = ref('')

const sample = (style: CaptionStyle, own: boolean) =>
  `/api/captions/styles/${style.key}/sample?text=${encodeURIComponent(props.words)}${own ? `&style=${encodeURIComponent(JSON.stringify(style))}` : ''}`
const offered = computed(() => [
  ...(differs.value && !kept.value ? [{ style: props.sheet.style!, own: true }] : []),
  ...styles.value.map((style) => ({ style: style.key === props.sheet.captions && props.sheet.style ? props.sheet.style : style, own: true })),
  ...Object.values(props.choices.captions).map((style) => ({ style, own: false })),
])

async function keep(how: Promise<CaptionStyle>, told: string) {
  const made = await how.catch((problem: Error) => void ElMessage.error(problem.message))
  if (!made) return
  name.value = ''
  await props.choose(made.key, made)
  ElMessage.success(told)
}
</script>

<template>
  <template v-if="now && sheet.captions">
    <details>
      <summary>Change this style</summary>
      <StyleForm :style="now" :choices="choices" @change="changed" />
    </details>
    <div v-if="differs" class="keep" role="group" aria-label="Keep this style">
      <el-button v-if="kept" size="small" @click="keep(change(kept!.key, now), `Kept. Clips that have “${kept!.name}” already stay as they are.`)">Save as “{{ kept.name }}”</el-button>
      <form @submit.prevent="keep(add({ ...now!, name: name.trim() }), `“${name.trim()}” is there for all clips now.`)">
        <el-input v-model="name" size="small" maxlength="60" placeholder="Name of the style" aria-label="Name of the style" />
        <el-button size="small" native-type="submit" :disabled="!name.trim()">Save as a style</el-button>
      </form>
    </div>
    <el-button v-else-if="kept" size="small" text @click="discard">Delete “{{ kept.name }}” from the styles</el-button>
  </template>
  <div class="styles" role="radiogroup" aria-label="Style of the captions">
    <label v-for="{ style, own } in offered" :key="style.key" :class="{ chosen: sheet.captions === style.key }">
      <input type="radio" name="caption-style" :value="style.key" :checked="sheet.captions === style.key" @change="choose(style.key, own ? style : null)">
      <img :src="sample(style, own)" :alt="`${style.name}: ${words}`" width="240" height="120" loading="lazy">
      <span>{{ style.name }}</span>
    </label>
    <label :class="{ chosen: !sheet.captions }">
      <input type="radio" name="caption-style" value="" :checked="!sheet.captions" @change="choose(null, null)">
      <span>No captions</span>
    </label>
  </div>
</template>

<style scoped>
.styles { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; }
.styles label { display: flex; flex-direction: column; gap: 3px; padding: 5px; border: 1px solid var(--rule); border-radius: 4px; font-size: 13px; cursor: pointer; }
.styles label.chosen { border-color: var(--pencil); box-shadow: 0 0 0 1px var(--pencil); }
.styles label:focus-within { outline: 2px solid var(--pencil); outline-offset: 1px; }
input[type='radio'] { position: absolute; opacity: 0; pointer-events: none; }
img { width: 100%; height: auto; border-radius: 2px; aspect-ratio: 2; }
summary { font-size: 14px; cursor: pointer; }
.keep, form { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
form .el-input { width: 150px; }
</style>
