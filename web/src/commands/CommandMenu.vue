<script setup lang="ts">
import { useWindowSize } from '@vueuse/core'
import { computed } from 'vue'
import { find } from './registry'

/** Commands as a menu: in columns under heads, each with its name and its key; what cannot be done now says why. */
const props = defineProps<{ columns: { head: string; ids: string[] }[]; disabled?: boolean; size?: 'small' }>()

const shown = computed(() =>
  props.columns.map(({ head, ids }) => ({
    head,
    items: ids.flatMap((id) => {
      const command = find(id)
      return command ? [{ command, able: command.enabled?.() ?? true }] : []
    }),
  })).filter((column) => column.items.length),
)
/** Why nothing of a column can be done now, where there is one reason for all of it. */
const why = (items: (typeof shown.value)[number]['items']) => (items.every((each) => !each.able) ? (items[0]?.command.why ?? '') : '')
const TAKEN = 130 // pixels of the window above a menu and below it
const WIDE = 210 // pixels of a column
const { width, height } = useWindowSize()
const tallest = computed(() => `${Math.max(height.value - TAKEN, 200)}px`)
const across = computed(() => Math.max(Math.min(shown.value.length, Math.floor((width.value - 40) / WIDE)), 1))
const run = (id: string) => find(id)?.run(new MouseEvent('click'))
</script>

<template>
  <el-dropdown append-to="#menus" trigger="click" :disabled="disabled" :max-height="tallest" @command="run">
    <el-button :disabled="disabled" :size="size"><slot /> <span class="down" aria-hidden="true">▾</span></el-button>
    <template #dropdown>
      <el-dropdown-menu class="command-menu" :style="{ columnCount: across }">
        <template v-for="{ head, items } in shown" :key="head">
          <li v-if="head" class="head" :class="{ opens: across === shown.length }" role="presentation">{{ head }}<small v-if="why(items)">{{ why(items) }}</small></li>
          <el-dropdown-item v-for="{ command, able } in items" :key="command.id" :command="command.id" :disabled="!able" :title="able ? undefined : command.why">
            <span>{{ command.label }}</span><kbd v-if="command.keys?.length">{{ command.keys[0] }}</kbd>
          </el-dropdown-item>
        </template>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style>
.down { margin-left: 4px; font-size: 10px; }
.command-menu { column-gap: 4px; }
.command-menu .head { padding: 6px 14px 2px; color: var(--ink-2); font-size: 12px; font-weight: 600; break-after: avoid; }
.command-menu .head.opens { break-before: column; }
.command-menu .head small { display: block; font-weight: 400; }
.command-menu .el-dropdown-menu__item { gap: 12px; justify-content: space-between; padding: 3px 14px; line-height: 20px; break-inside: avoid; }
.command-menu .el-dropdown-menu__item.is-disabled { color: #6d7380; }
.command-menu kbd { color: var(--ink-2); font: 11px var(--mono); }
</style>
