<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import { tell, tellError } from '@/shared/tell'
import { useClips } from '@/recordings/useClips'
import type { Doc } from '@/document/useDocument'

/** Laying parts of this clip's dressing onto other clips. */
const props = defineProps<{ doc: Doc }>()
defineEmits<{ close: [] }>()

const open = ref(true)
const clips = useClips()
const others = computed(() => clips.all.value.filter((clip) => clip.id !== props.doc.id))
const parts = ref(Object.keys(props.doc.dressing))
const onto = ref<string[]>([])
const done = ref<number | null>(null) // how many of them are dressed, while it goes on

async function lay() {
  try {
    for (done.value = 0; done.value < onto.value.length; done.value++) {
      await got(api.POST('/api/documents/{document_id}/dressing', { params: { path: { document_id: props.doc.id } }, body: { parts: parts.value, onto: [onto.value[done.value]!] } }))
    }
    tell(`Laid onto ${onto.value.length} clip${onto.value.length === 1 ? '' : 's'}. Each can undo it.`)
    open.value = false
  } catch (error) {
    if (done.value) tell(`Copied to ${done.value} of ${onto.value.length} clips so far.`)
    tellError(error)
  } finally {
    done.value = null
  }
}
</script>

<template>
  <el-dialog v-model="open" title="Copy the styling to other clips" width="min(520px, 96vw)" @closed="$emit('close')">
    <p v-if="!others.length" class="quiet">There is no other clip yet.</p>
    <template v-else>
      <h3>What</h3>
      <el-checkbox-group v-model="parts" aria-label="Parts of the styling"><el-checkbox v-for="(name, key) in doc.dressing" :key="key" :value="key">{{ name }}</el-checkbox></el-checkbox-group>
      <h3>To</h3>
      <el-checkbox-group v-model="onto" class="clips" aria-label="Clips to style"><el-checkbox v-for="clip in others" :key="clip.id" :value="clip.id">{{ clip.title }}</el-checkbox></el-checkbox-group>
    </template>
    <template #footer>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" :disabled="!parts.length || !onto.length || done !== null" @click="lay">{{ done === null ? 'Copy' : `Copying ${done + 1} of ${onto.length}…` }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
h3 { margin: 8px 0 4px; font-size: 15px; }
.clips { display: flex; flex-direction: column; max-height: 300px; overflow-y: auto; }
</style>
