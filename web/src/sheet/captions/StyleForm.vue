<script setup lang="ts">
import { computed } from 'vue'
import type { Choices } from '@/shared/useChoices'
import type { CaptionStyle } from './useStyles'
import AssetPicker from '@/shelf/AssetPicker.vue'
import FieldsForm from '@/shared/FieldsForm.vue'

/** All of a caption style: its letters, what lies behind them, the spoken word, how captions come and go. */
const props = defineProps<{ style: CaptionStyle; choices: Choices }>()
const emit = defineEmits<{ change: [style: CaptionStyle] }>()

const NOT_LETTERS = ['key', 'name', 'font', 'box', 'spoken', 'entrance']
const letters = computed(() => Object.fromEntries(Object.entries(props.choices.style_fields.letters!).filter(([field]) => !NOT_LETTERS.includes(field))))
const set = (part: Partial<CaptionStyle>) => emit('change', { ...props.style, ...part })
const setLetters = (values: Record<string, unknown>) =>
  set(Object.fromEntries(Object.entries(values).filter(([field]) => field in letters.value)) as Partial<CaptionStyle>)
</script>

<template>
  <div class="style">
    <h4>Text and position</h4>
    <AssetPicker
      kind="font" :chosen="style.font!" :others="choices.style_fonts" label="Font" called="a font" accept=".ttf,.otf,.woff,.woff2"
      instead="take another font in its place" @change="set({ font: $event })"
    />
    <FieldsForm :values="{ ...style }" :fields="letters" @change="setLetters" />
    <h4>Background</h4>
    <el-checkbox :model-value="!!style.box" label="Background" @change="set({ box: $event ? choices.new_box : null })" />
    <FieldsForm v-if="style.box" :values="{ ...style.box }" :fields="choices.style_fields.box!" @change="set({ box: $event as CaptionStyle['box'] })" />
    <h4>Spoken word</h4>
    <FieldsForm :values="{ ...style.spoken }" :fields="choices.style_fields.spoken!" @change="set({ spoken: $event as CaptionStyle['spoken'] })" />
    <h4>Animation</h4>
    <FieldsForm :values="{ ...style.entrance }" :fields="choices.style_fields.entrance!" @change="set({ entrance: $event as CaptionStyle['entrance'] })" />
  </div>
</template>

<style scoped>
.style { display: flex; flex-direction: column; gap: 10px; padding-top: 8px; }
h4 { margin: 8px 0 0; font-size: 13px; }
</style>
