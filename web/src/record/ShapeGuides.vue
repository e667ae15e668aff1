<script setup lang="ts">
import { computed } from 'vue'
import { useOutlets } from '@/document/useOutlets'

/** The shapes of outlets over a picture: what of it will be seen there. */
const props = defineProps<{ shown: string[]; ratio: number }>()
const { outlets } = useOutlets()
const frames = computed(() => (outlets.value ?? []).filter((each) => props.shown.includes(each.key)).map((each) => {
  const own = each.width / each.height
  return { key: each.key, name: each.name, width: Math.min(own / props.ratio, 1) * 100, height: Math.min(props.ratio / own, 1) * 100 }
}))
</script>

<template>
  <div class="guides" aria-hidden="true">
    <i v-for="each in frames" :key="each.key" :style="{ width: `${each.width}%`, height: `${each.height}%` }"><b>{{ each.name }}</b></i>
  </div>
</template>

<style scoped>
.guides { position: absolute; inset: 0; pointer-events: none; }
i { position: absolute; top: 50%; left: 50%; border: 1px solid rgb(255 255 255 / 85%); outline: 1px solid rgb(0 0 0 / 45%); transform: translate(-50%, -50%); }
b { position: absolute; top: 4px; left: 6px; padding: 0 5px; border-radius: 3px; background: rgb(20 23 28 / 75%); color: #fff; font: 500 11px/1.6 var(--sans); }
</style>
