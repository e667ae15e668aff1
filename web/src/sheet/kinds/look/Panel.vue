<script setup lang="ts">
import { ElMessage } from 'element-plus'
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import AssetPicker from '@/shelf/AssetPicker.vue'
import { sureToDelete } from '@/shared/ask'
import FieldsForm from '@/shared/FieldsForm.vue'
import type { Content, Doc } from '@/document/useDocument'
import Scopes from './Scopes.vue'
import { useLooks, type NamedLook } from './useLooks'

type Look = Extract<Content, { kind: 'look' }>

/** The looks of the workspace: to begin from, to keep this one with; and the colours of this one, for other programs. */
const props = defineProps<{ content: Look; fields: Record<string, unknown>; doc: Doc; layer: string; time: number }>()
const emit = defineEmits<{ change: [content: Content] }>()

const set = (part: Partial<Look>) => emit('change', { ...props.content, ...part })
const over = computed(() => !props.doc.bars.find((each) => each.layer === props.layer)?.whole)
const { looks, add, remove } = useLooks()
async function discard() {
  if (own.value && (await sureToDelete(`Delete “${own.value.name}”?`, 'Clips with this look stay as they are.'))) await remove(own.value.key)
}
const name = ref('')
const grade = computed(() => Object.fromEntries(Object.entries(props.content).filter(([field]) => field !== 'kind' && field !== 'of')) as NamedLook['grade'])
const own = computed(() => looks.value.find((each) => Object.entries(each.grade).every(([field, value]) => grade.value[field as keyof NamedLook['grade']] === value)))
const query = computed(() => new URLSearchParams(Object.entries(grade.value).map(([field, value]) => [field, String(value)])).toString())

// Like the frame that is shown.
const HOW_FAR = { amount: { title: 'How far towards the frame shown', minimum: 0.1, maximum: 1, slider: true } }
const amount = ref(1)
const looking = ref(false)
async function like(how: 'even out' | 'match') {
  looking.value = true
  const body = { layer: props.layer, seconds: props.time, edition: props.doc.edition, how, strength: amount.value }
  const found = await got(api.POST('/api/colour/documents/{document_id}/matched', { params: { path: { document_id: props.doc.id } }, body })).catch((problem: Error) => void ElMessage.error(problem.message))
  looking.value = false
  if (found) emit('change', { ...props.content, ...found })
}

async function keep() {
  const made = await add({ name: name.value.trim(), grade: grade.value }).catch((problem: Error) => void ElMessage.error(problem.message))
  if (!made) return
  name.value = ''
  ElMessage.success(`“${made.name}” is there for all clips now.`)
}
</script>

<template>
  <Scopes />
  <AssetPicker
    kind="table" :chosen="content.table ?? ''" :others="{ '': 'None' }" label="LUT" called="a .cube file" accept=".cube"
    instead="are without its colours" @change="set({ table: $event })"
  />
  <FieldsForm v-if="content.table" :values="{ strength: content.strength }" :fields="fields" only="strength" @change="set($event)" />
  <div v-if="over" class="like" role="group" aria-label="Like the frame shown">
    <FieldsForm :values="{ amount }" :fields="HOW_FAR" @change="amount = $event.amount as number" />
    <span class="looks">
      <el-button size="small" :loading="looking" title="Exposure and white balance" @click="like('even out')">Even out</el-button>
      <el-button size="small" :loading="looking" title="Also contrast and saturation; skin keeps its hue" @click="like('match')">Match</el-button>
    </span>
  </div>
  <div v-if="looks.length" class="looks" role="group" aria-label="Your looks">
    <span class="quiet">Your looks</span>
    <el-button v-for="each in looks" :key="each.key" size="small" :type="own?.key === each.key ? 'primary' : undefined" @click="$emit('change', { ...content, ...each.grade } as Content)">{{ each.name }}</el-button>
  </div>
  <el-button v-if="own" size="small" text @click="discard">Delete “{{ own.name }}” from your looks</el-button>
  <form v-else class="looks" @submit.prevent="keep">
    <el-input v-model="name" size="small" maxlength="60" placeholder="Name of the look" aria-label="Name of the look" />
    <el-button size="small" native-type="submit" :disabled="!name.trim()">Save as a look</el-button>
  </form>
  <a :href="`/api/colour/look.cube?${query}`" download="look.cube">Export as LUT (.cube)</a>
</template>

<style scoped>
.looks { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; font-size: 13px; }

.like { display: flex; flex-direction: column; gap: 6px; width: 100%; }
.looks .el-button { margin: 0; }
.looks .el-input { width: 150px; }
a { font-size: 14px; }
</style>
