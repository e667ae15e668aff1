<script setup lang="ts">
import { ref, watch } from 'vue'

/** Asking for the link of a recording to fetch. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; fetch: [link: string] }>()

const link = ref('')
watch(() => props.open, () => (link.value = ''))
</script>

<template>
  <el-dialog :model-value="open" title="Bring in from a link" width="520px" align-center @close="emit('close')">
    <form @submit.prevent="link.trim() && emit('fetch', link.trim())">
      <label for="link">Link of the file</label>
      <el-input id="link" v-model="link" placeholder="https://…" autofocus />
      <p class="quiet">
        Hovvet fetches from hosts its administrator allowed, and from the
        <a href="/drive/" target="_blank" rel="noopener">drive that comes with it</a>. The link must lead to the file itself.
      </p>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="!link.trim()" @click="emit('fetch', link.trim())">Fetch</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
label { display: block; margin-bottom: 4px; font-weight: 500; }
p { margin: 10px 0 0; font-size: 14px; }
</style>
