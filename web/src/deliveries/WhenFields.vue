<script setup lang="ts">
/** Day and time as a clock shows them somewhere. */
defineProps<{ zones: string[] }>()
const day = defineModel<string>('day', { required: true })
const time = defineModel<string>('time', { required: true })
const zone = defineModel<string>('zone', { required: true })
</script>

<template>
  <span class="when">
    <input v-model="day" type="date" required aria-label="Day">
    <input v-model="time" type="time" required aria-label="Time">
    <select v-model="zone" aria-label="Time zone"><option v-for="each in zones" :key="each" :value="each">{{ each.replaceAll('_', ' ') }}</option></select>
  </span>
</template>

<style scoped>
.when { display: flex; flex-wrap: wrap; gap: 6px; }
input, select { padding: 4px 6px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 14px; }
select { max-width: 200px; }
</style>
