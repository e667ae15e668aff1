<script setup lang="ts">
import { useWindowSize } from '@vueuse/core'
import { computed } from 'vue'
import { find } from './registry'

/** Commands as a menu, in groups: each with its name and its keys. */
const props = defineProps<{ groups: string[][]; disabled?: boolean; text?: boolean; size?: 'small' }>()

const items = computed(() =>
  props.groups.flatMap((group) =>
    group.flatMap((id, n) => {
      const command = find(id)
      return command ? [{ command, divided: n === 0 && group !== props.groups[0], able: command.enabled?.() ?? true }] : []
    }),
  ),
)
const TAKEN = 130 // pixels of the window above a menu and below it
const { height } = useWindowSize()
const tallest = computed(() => `${Math.max(height.value - TAKEN, 200)}px`)
const run = (id: string) => find(id)?.run(new MouseEvent('click'))
</script>

<template>
  <el-dropdown trigger="click" :disabled="disabled" :max-height="tallest" @command="run">
    <el-button :disabled="disabled" :text="text" :size="size"><slot /></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="{ command, divided, able } in items" :key="command.id" :command="command.id" :disabled="!able" :divided="divided">
          {{ command.label }}{{ command.keys?.length ? ` (${command.keys[0]})` : '' }}
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
