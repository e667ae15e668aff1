<script setup lang="ts">
import { computed } from 'vue'
import type { Content } from '@/composables/useDocument'

/** The colours of a look, to be used in other programs. */
const props = defineProps<{ content: Extract<Content, { kind: 'look' }> }>()
const query = computed(() => {
  const settings = Object.entries(props.content).filter(([name]) => name !== 'kind')
  return new URLSearchParams(settings.map(([name, value]) => [name, String(value)])).toString()
})
</script>

<template>
  <a :href="`/api/colour/look.cube?${query}`" download="look.cube">Take these colours away as a .cube file</a>
</template>

<style scoped>
a { font-size: 14px; }
</style>
