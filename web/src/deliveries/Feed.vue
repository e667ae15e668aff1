<script setup lang="ts">
import { toRef } from 'vue'
import { moment } from '@/shared/format'
import { useFeed } from './useOutbox'

/** What an account of the stand-in was sent, as it looks there. */
const props = defineProps<{ account: string }>()
const { feed, error } = useFeed(toRef(props, 'account'))
</script>

<template>
  <div class="feed">
    <p v-if="error" role="alert">{{ error.message }} <RouterLink :to="{ name: 'outbox' }">Back to the outbox</RouterLink></p>
    <template v-else-if="feed">
      <h2>{{ feed.account.name }} <span class="quiet">{{ feed.account.sort_name }}</span></h2>
      <p class="quiet">What this made-up account was sent, as it looks there. <RouterLink :to="{ name: 'outbox' }">Back to the outbox</RouterLink></p>
      <p v-if="!feed.posts.length">It was sent nothing yet.</p>
      <article v-for="each in feed.posts" :key="each.id" data-test="fed">
        <video controls playsinline preload="metadata" :width="each.width" :height="each.height" :src="`/api/outside/posts/${each.id}/film`" :poster="each.has_cover ? `/api/outside/posts/${each.id}/cover.jpg` : undefined" :aria-label="each.title" />
        <div>
          <p class="text">{{ each.text || 'Without a text.' }}</p>
          <span class="quiet">{{ moment(each.created) }}</span>
        </div>
      </article>
    </template>
  </div>
</template>

<style scoped>
.feed { flex: 1; min-height: 0; padding: 16px 24px; overflow-y: auto; }
p { margin: 4px 0 12px; font-size: 14px; }
h2 .quiet { font-weight: 400; }
article { display: grid; grid-template-columns: 220px minmax(0, 560px); gap: 20px; padding: 16px 0; border-top: 1px solid var(--rule); }
video { width: 220px; height: auto; border-radius: 6px; background: var(--ink); }
.text { white-space: pre-line; overflow-wrap: anywhere; }
@media (width < 600px) { article { grid-template-columns: 1fr; } }
</style>
