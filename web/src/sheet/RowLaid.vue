<script setup lang="ts">
import { computed } from 'vue'
import type { Segment } from './bars'

/** What is laid over one row, where there is no room for lanes: how much, and each by its name. */
const props = defineProps<{ lanes: { lane: string; segments: Segment[] }[] }>()
defineEmits<{ choose: [layer: string] }>()
const bars = computed(() => props.lanes.flatMap((each) => each.segments.map((segment) => segment.bar)))
</script>

<template>
  <span class="laid">
    <el-dropdown v-if="bars.length" append-to="#menus" trigger="click" max-height="60vh" @command="$emit('choose', $event)">
      <button class="link" :aria-label="`${bars.length} laid over this row`" @pointerdown.stop>{{ bars.length }} laid</button>
      <template #dropdown>
        <el-dropdown-menu>
          <el-dropdown-item v-for="bar in bars" :key="bar.layer" :command="bar.layer">{{ bar.label }}</el-dropdown-item>
        </el-dropdown-menu>
      </template>
    </el-dropdown>
  </span>
</template>

<style scoped>
.link { font-size: 13px; white-space: nowrap; }
</style>
