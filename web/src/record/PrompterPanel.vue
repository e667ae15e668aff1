<script setup lang="ts">
/** How the prompter looks and runs. */
const habits = defineModel<{ stops: boolean; mirrored: boolean; follows: boolean }>({ required: true })
defineProps<{ looks: { size: number; width: number; eye: number }; pace: number; paces: [number, number] }>()
defineEmits<{ pace: [pace: number] }>()
</script>

<template>
  <section class="panel" aria-labelledby="prompter-head">
    <h2 id="prompter-head">Prompter</h2>
    <label>Pace, {{ pace }} words a minute <input type="range" :min="paces[0]" :max="paces[1]" step="5" :value="pace" @change="$emit('pace', Number(($event.target as HTMLInputElement).value))"></label>
    <!-- eslint-disable vue/no-mutating-props -- the prompter's own, kept by it -->
    <label>Size <input v-model.number="looks.size" type="range" min="18" max="90" step="2"></label>
    <label>Width <input v-model.number="looks.width" type="range" min="30" max="100" step="5"></label>
    <label>Where you read <input v-model.number="looks.eye" type="range" min="5" max="80" step="5"></label>
    <!-- eslint-enable vue/no-mutating-props -->
    <el-checkbox v-model="habits.follows" size="small" label="Follow my voice (F)" />
    <el-checkbox v-model="habits.stops" size="small" label="Stop recording at its end" />
    <el-checkbox v-model="habits.mirrored" size="small" label="Mirrored, for a glass before the camera" />
    <p class="quiet">Space holds it. Left and right: slower, faster. Up and down: a line back, a line on.</p>
  </section>
</template>

<style scoped>
.panel { display: flex; flex-direction: column; gap: 8px; padding-top: 16px; border-top: 1px solid var(--rule); font-size: 14px; }
label:not(.el-checkbox) { display: flex; flex-direction: column; color: var(--ink-2); font-size: 13px; }
.el-checkbox { height: auto; white-space: normal; }
p { margin: 0; font-size: 13px; }
</style>
