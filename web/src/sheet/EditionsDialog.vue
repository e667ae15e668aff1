<script setup lang="ts">
import { computed, reactive, ref } from 'vue'
import { sureToDelete } from '@/shared/ask'
import { tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import type { Doc, Edit } from '@/document/useDocument'
import { useOutlets, type OutletWanted } from '@/document/useOutlets'

/** The editions of a clip: for which outlet, how dressed; and outlets of one's own. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; edit: [edits: Edit[]] }>()

const { outlets, add, change, remove } = useOutlets()
const open = ref(true)
const choices = useChoices()
const rates = computed(() => (choices.value?.rates ?? []).map((rate) => [`${rate.num}/${rate.den}`, String(Math.round((rate.num! / rate.den!) * 100) / 100)] as const))

const editions = computed(() => props.doc.sheet.editions ?? [])
type Edition = (typeof editions.value)[number]

function put(edition: Edition, more: Partial<Edition>) {
  emit('edit', [{ type: 'put_edition', edition: { ...edition, ...more } }])
}

function another() {
  const taken = new Set(editions.value.map((each) => each.id))
  const id = Array.from({ length: taken.size + 1 }, (_, n) => `e${n + 1}`).find((each) => !taken.has(each))!
  const used = new Set(editions.value.map((each) => each.outlet))
  const outlet = outlets.value.find((each) => !used.has(each.key))?.key ?? outlets.value[0]!.key
  emit('edit', [{ type: 'put_edition', edition: { ...editions.value[0]!, id, outlet } }])
}

async function discard({ key, name }: { key: string; name: string }) {
  if (await sureToDelete(`Delete the outlet “${name}”?`, 'Editions for it stay, and say that it is gone.')) await remove(key).catch(tellError)
}

const rateOf = (edition: Edition) => (edition.rate ? `${edition.rate.num}/${edition.rate.den}` : '')
function setRate(edition: Edition, rate: string) {
  const [num, den] = rate.split('/').map(Number)
  put(edition, { rate: rate ? { num: num!, den: den! } : null })
}

const editing = ref<string | null>(null) // the key of an outlet of one's own, or "new"
const wanted = reactive({} as OutletWanted)
interface Limits { minimum?: number; maximum?: number; maxLength?: number; multipleOf?: number }
const limits = (field: string) => (choices.value?.outlet_fields[field] ?? {}) as Limits
const megabytes = computed({
  get: () => (wanted.file_limit ? wanted.file_limit / 1e6 : undefined),
  set: (value) => { wanted.file_limit = value ? Math.round(value * 1e6) : null },
})
const failed = ref('')
const SIDES = ['Left', 'Top', 'Right', 'Bottom']

function edit(key: string) {
  const known = outlets.value.find((each) => each.key === key) ?? choices.value?.new_outlet
  if (!known) return
  const { name, width, height, longest, lufs, file_limit, post_letters, post_hashtags } = known
  Object.assign(wanted, { name: key === 'new' ? '' : name, width, height, longest, lufs, safe: [...known.safe!], file_limit: file_limit ?? null, post_letters, post_hashtags })
  failed.value = ''
  editing.value = key
}

async function save() {
  try {
    await (editing.value === 'new' ? add({ ...wanted }) : change(editing.value!, { ...wanted }))
    editing.value = null
  } catch (error) {
    failed.value = (error as Error).message
  }
}
</script>

<template>
  <el-dialog v-model="open" title="Editions" width="min(640px, 96vw)" @closed="$emit('close')">
    <table>
      <thead><tr><th>Outlet</th><th>Styling</th><th>Frame rate</th><th><span class="unseen">Remove</span></th></tr></thead>
      <tbody>
        <tr v-for="each in editions" :key="each.id" data-test="edition">
          <td>
            <el-select :model-value="each.outlet" size="small" aria-label="Outlet of the edition" @change="put(each, { outlet: $event })">
              <el-option v-for="outlet in outlets" :key="outlet.key" :label="`${outlet.name}, ${outlet.width} × ${outlet.height}`" :value="outlet.key" />
            </el-select>
          </td>
          <td>
            <el-select :model-value="each.dressing" size="small" aria-label="Styling" @change="put(each, { dressing: $event })">
              <el-option v-for="(name, key) in choices?.dressings" :key="key" :label="name" :value="key" />
            </el-select>
          </td>
          <td>
            <el-select :model-value="rateOf(each)" size="small" aria-label="Frame rate" :empty-values="[undefined]" @change="setRate(each, $event)">
              <el-option label="As recorded" value="" />
              <el-option v-for="[key, name] in rates" :key="key" :label="name" :value="key" />
            </el-select>
          </td>
          <td><el-button text size="small" :disabled="editions.length < 2" @click="emit('edit', [{ type: 'remove_edition', edition: each.id }])">Remove</el-button></td>
        </tr>
      </tbody>
    </table>
    <el-button size="small" data-test="another" @click="another">Add an edition</el-button>
    <h3>Outlets of your own</h3>
    <p v-if="!outlets.some((each) => each.key.startsWith('own-'))" class="quiet">None yet. An outlet is a size, a longest length, a loudness and a safe area.</p>
    <ul>
      <li v-for="each in outlets.filter((outlet) => outlet.key.startsWith('own-'))" :key="each.key">
        {{ each.name }}, {{ each.width }} × {{ each.height }}
        <el-button text size="small" @click="edit(each.key)">Change</el-button>
        <el-button text size="small" @click="discard(each)">Delete</el-button>
      </li>
    </ul>
    <el-button v-if="!editing" size="small" @click="edit('new')">Add an outlet</el-button>
    <form v-else class="outlet" @submit.prevent="save">
      <label>Name <el-input v-model="wanted.name" size="small" :maxlength="limits('name').maxLength" aria-label="Name of the outlet" /></label>
      <label>Width (px) <el-input-number v-model="wanted.width" size="small" :min="limits('width').minimum" :max="limits('width').maximum" :step="limits('width').multipleOf" aria-label="Width" /></label>
      <label>Height (px) <el-input-number v-model="wanted.height" size="small" :min="limits('height').minimum" :max="limits('height').maximum" :step="limits('height').multipleOf" aria-label="Height" /></label>
      <label>Longest (s) <el-input-number v-model="wanted.longest" size="small" :min="limits('longest').minimum" :max="limits('longest').maximum" aria-label="Longest (s)" /></label>
      <label>Loudness (LUFS) <el-input-number v-model="wanted.lufs" size="small" :min="limits('lufs').minimum" :max="limits('lufs').maximum" aria-label="Loudness (LUFS)" /></label>
      <label v-for="(side, n) in SIDES" :key="side">Safe area, {{ side.toLowerCase() }} (px) <el-input-number v-model="wanted.safe![n]" size="small" :min="0" :aria-label="`Safe area, ${side.toLowerCase()} (px)`" /></label>
      <label>Largest file (MB) <el-input-number v-model="megabytes" size="small" :min="1" :value-on-clear="null" aria-label="Largest file (MB)" /></label>
      <label>Text of a post (letters) <el-input-number v-model="wanted.post_letters" size="small" :min="limits('post_letters').minimum" :max="limits('post_letters').maximum" aria-label="Text of a post (letters)" /></label>
      <label>Hashtags, at most <el-input-number v-model="wanted.post_hashtags" size="small" :min="limits('post_hashtags').minimum" :max="limits('post_hashtags').maximum" aria-label="Hashtags, at most" /></label>
      <p v-if="failed" class="alarm" role="alert">{{ failed }}</p>
      <div>
        <el-button size="small" type="primary" native-type="submit" :disabled="!wanted.name.trim()">Keep</el-button>
        <el-button size="small" @click="editing = null">Cancel</el-button>
      </div>
    </form>
  </el-dialog>
</template>

<style scoped>
table { width: 100%; table-layout: fixed; border-collapse: collapse; margin-bottom: 8px; }
th:first-child { width: 42%; }
th:last-child { width: 90px; }
th { color: var(--ink-2); font-weight: 500; font-size: 13px; text-align: left; }
td { padding: 3px 6px 3px 0; }
h3 { margin: 18px 0 6px; font-size: 15px; }
ul { margin: 0 0 8px; padding: 0; list-style: none; }
p { margin: 0 0 8px; font-size: 14px; }
.outlet { display: grid; grid-template-columns: 1fr 1fr; gap: 8px 16px; font-size: 13px; }
.outlet label { display: flex; flex-direction: column; gap: 2px; }
.outlet p, .outlet div { grid-column: 1 / -1; }
</style>
