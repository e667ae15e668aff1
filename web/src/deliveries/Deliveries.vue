<script setup lang="ts">
import { useRoute } from 'vue-router'

/** All clips and how far they are; when they go out; what went out. */
const PARTS = { board: 'Board', calendar: 'Calendar', outbox: 'Outbox' }
const route = useRoute()
const isAt = (part: string) => route.name === part || (part === 'outbox' && route.name === 'feed')
</script>

<template>
  <div class="deliveries">
    <header>
      <h1 tabindex="-1">Deliveries</h1>
      <nav aria-label="Parts of deliveries">
        <RouterLink v-for="(name, part) in PARTS" :key="part" :to="{ name: part }" :aria-current="isAt(part) ? 'page' : undefined" active-class="" exact-active-class="">{{ name }}</RouterLink>
      </nav>
    </header>
    <RouterView />
  </div>
</template>

<style scoped>
.deliveries { display: flex; flex-direction: column; height: 100%; min-height: 0; }
header { display: flex; flex-wrap: wrap; gap: 4px 24px; align-items: baseline; padding: 16px 24px 0; }
h1:focus { outline: none; }
nav { display: flex; gap: 18px; }
nav a { padding: 4px 0; border-bottom: 2px solid transparent; color: var(--ink-2); font-weight: 500; text-decoration: none; }
nav a[aria-current] { border-bottom-color: var(--pencil); color: var(--ink); }
@media (width < 600px) { header { padding: 10px 12px 0; } }
</style>
