<script setup lang="ts">
import { ref } from 'vue'
import { clock } from '@/shared/format'
import type { Comment } from './useReview'

/** Something said of a clip, with its answers. */
const props = defineProps<{ comment: Comment; chosen: boolean; canAnswer: boolean }>()
const emit = defineEmits<{ choose: []; answer: [text: string]; resolve: [resolved: boolean] }>()

const text = ref('')
function answer() {
  if (!text.value.trim()) return
  emit('answer', text.value.trim())
  text.value = ''
}
</script>

<template>
  <li class="comment" :class="{ chosen, resolved: comment.resolved }" data-test="comment">
    <button class="said" :aria-expanded="chosen" @click="emit('choose')">
      <span class="head"><b>{{ comment.name }}</b> <span v-if="comment.start != null" class="time quiet">{{ clock(comment.start) }}</span><span v-if="comment.place" class="quiet"> in the picture</span></span>
      <span class="text">{{ comment.text }}</span>
      <span v-if="comment.lost" class="quiet">Its words are no longer in the clip.</span>
      <span v-if="comment.resolved" class="done">Done, {{ comment.resolved }}</span>
    </button>
    <div v-for="each in comment.answers" :key="each.id" class="answer"><b>{{ each.name }}</b> {{ each.text }}</div>
    <form v-if="chosen && canAnswer" @submit.prevent="answer">
      <el-input v-model="text" size="small" :maxlength="4000" placeholder="Answer" aria-label="Answer" />
      <el-button size="small" native-type="submit" :disabled="!text.trim()">Answer</el-button>
      <el-button size="small" @click="emit('resolve', !props.comment.resolved)">{{ comment.resolved ? 'Open again' : 'Done' }}</el-button>
    </form>
  </li>
</template>

<style scoped>
.comment { display: flex; flex-direction: column; gap: 4px; padding: 8px; border-bottom: 1px solid var(--rule); border-left: 3px solid transparent; }
.comment.chosen { border-left-color: var(--pencil); background: var(--paper-2); }
.said { display: flex; flex-direction: column; gap: 2px; padding: 0; border: 0; background: none; color: inherit; font: inherit; font-size: 14px; text-align: left; cursor: pointer; }
.text { overflow-wrap: anywhere; white-space: pre-wrap; }
.resolved .text { color: var(--ink-2); text-decoration: line-through; }
.done { color: var(--moss); font-size: 13px; }
.answer { padding-left: 14px; font-size: 14px; overflow-wrap: anywhere; white-space: pre-wrap; }
form { display: flex; gap: 6px; align-items: center; }
form .el-button { margin: 0; }
</style>
