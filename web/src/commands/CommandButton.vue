<script setup lang="ts">
import { computed } from 'vue'
import { find } from './registry'

/** A command as a button: what it says of itself, its key, and whether it makes sense now. The slot is a shorter name;
 * `off` keeps it from being pressed although its key would be taken (a key may come before the answer that allows it), and `why` says so. */
const props = defineProps<{ id: string; off?: boolean; why?: string }>()
const command = computed(() => find(props.id))
const able = computed(() => !props.off && command.value !== undefined && (command.value.enabled?.() ?? true))
const key = computed(() => command.value?.keys?.[0])
const title = computed(() => (!able.value && (props.why ?? command.value?.why)) || `${command.value?.label ?? ''}${key.value ? ` (${key.value})` : ''}`)
</script>

<template>
  <el-button :disabled="!able" :title="title" @click="(event: MouseEvent) => command?.run(event)"><slot>{{ command?.label }}</slot></el-button>
</template>
