<script setup lang="ts">
/** A state, by a colour and a word: never by the colour alone. */
defineProps<{ state: string; name: string }>()
</script>

<template><span class="state" :data-state="state"><i aria-hidden="true"></i>{{ name }}</span></template>

<style scoped>
.state { display: inline-flex; gap: 6px; align-items: center; font-size: 13px; white-space: nowrap; }
i { flex: none; width: 9px; height: 9px; border: 1.5px solid var(--mark, var(--ink-2)); border-radius: 50%; background: var(--mark, transparent); }
[data-state='making'], [data-state='sending'], [data-state='waiting'] { --mark: var(--marigold); }
[data-state='exported'] { --mark: var(--ink-2); }
[data-state='review'] { --mark: var(--plum); }
[data-state='approved'] { --mark: var(--moss); }
[data-state='planned'] { --mark: var(--pencil); }
[data-state='sent'] { --mark: var(--moss); }
[data-state='sent'] i { border-radius: 2px; }
[data-state='changed'], [data-state='changes'] { --mark: var(--rust); }
[data-state='changes'], [data-state='changed'] { color: var(--rust-text); }
[data-state='asks'], [data-state='failed'], [data-state='missed'], [data-state='held'] { --mark: var(--alarm); color: var(--alarm); font-weight: 500; }
[data-state='none'] { color: var(--ink-2); }
</style>
