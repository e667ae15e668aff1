<script setup lang="ts">
import { ref, watch } from 'vue'

/** Asking for a link to fetch from. */
const props = defineProps<{ open: boolean; kinds?: Record<string, string> /* of what it may lead to, where that is asked */ }>()
const emit = defineEmits<{ close: []; fetch: [link: string, kind: string] }>()

const link = ref('')
const kind = ref(Object.keys(props.kinds ?? {})[0] ?? '')
const fetch = () => { if (link.value.trim()) emit('fetch', link.value.trim(), kind.value) }
watch(() => props.open, () => (link.value = ''))
</script>

<template>
  <el-dialog :model-value="open" title="Bring in from a link" width="520px" align-center @close="emit('close')">
    <form @submit.prevent="fetch">
      <label for="link">Link of the file</label>
      <el-input id="link" v-model="link" placeholder="https://…" autofocus />
      <el-radio-group v-if="kinds" v-model="kind" class="kinds" size="small" aria-label="What it leads to">
        <el-radio-button v-for="(name, key) in kinds" :key="key" :value="key">{{ name }}</el-radio-button>
      </el-radio-group>
      <p class="quiet">
        Hovvet fetches from hosts its administrator allowed, and from the
        <a href="/drive/" target="_blank" rel="noopener">drive that comes with it</a>. The link must lead to the file itself.
      </p>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" :disabled="!link.trim()" @click="fetch">Fetch</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
label { display: block; margin-bottom: 4px; font-weight: 500; }
.kinds { display: flex; margin-top: 10px; }
p { margin: 10px 0 0; font-size: 14px; }
</style>
