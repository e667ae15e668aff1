<script setup lang="ts">
import { useQueries } from '@tanstack/vue-query'
import { ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import { api, got } from '@/api/client'
import { sureToDelete } from '@/shared/ask'
import { tell, tellError } from '@/shared/tell'
import { useChoices } from '@/shared/useChoices'
import type { Doc } from '@/document/useDocument'
import { useHouse, type House } from '@/document/useHouse'

/** House styles: this clip is dressed in one, or shows how one looks. */
const props = defineProps<{ doc: Doc }>()
const emit = defineEmits<{ close: []; dress: [house: House]; kept: [] /* this clip wears it now */ }>()

const open = ref(true)
const { houses, keep, keepAs, forShow, bringIn, remove } = useHouse()
const would = useQueries({
  queries: computed(() => houses.value.map(({ key, version }) => ({
    queryKey: ['house-changes', key, version, props.doc.id, props.doc.version],
    queryFn: () => got(api.GET('/api/house/{key}/changes', { params: { path: { key }, query: { clip: props.doc.id } } })),
  }))),
})
const told = (n: number) => {
  const changes = would.value[n]?.data
  return !changes ? '' : changes.length ? `Would change here: ${changes.join(' · ')}` : 'This clip looks so already.'
}
const parts = computed(() => `Placeholders: ${Object.keys(choices.value?.name_parts ?? {}).map((part) => `{${part}}`).join(' ')}`)
const chooser = ref<HTMLInputElement | null>(null)
const name = ref('')
const naming = ref('')
const choices = useChoices()

async function done(work: Promise<House>, told: (made: House) => string) {
  const made = await work.catch(tellError)
  if (!made) return
  name.value = naming.value = ''
  emit('kept')
  tell(told(made))
}

const wears = (house: House) => props.doc.sheet.house?.key === house.key
const dressed = (house: House) => (wears(house) ? (props.doc.sheet.house!.version < house.version ? 'Apply again: it has changed since' : 'Apply again') : 'Apply to this clip')

async function be(house: House) {
  const sure = await ElMessageBox.confirm('Clips that have it stay as they are until it is applied again.', `Update “${house.name}” from this clip?`, { confirmButtonText: 'Update', cancelButtonText: 'Cancel' }).catch(() => null)
  if (sure) await done(keepAs(props.doc.id, { ...house, naming: naming.value.trim() || house.naming }), (made) => `“${made.name}” is updated from this clip.`)
}

async function forNew(house: House) {
  const on = !house.shows.length
  await done(forShow(props.doc.id, house, on), (made) => (on ? `New clips of ${made.shows.map((show) => `“${show}”`).join(', ')} begin with “${made.name}”.` : `New clips no longer begin with “${made.name}”.`))
}

async function take(house: House) {
  if (await sureToDelete(`Delete “${house.name}”?`, 'Clips that have it stay as they are.')) await remove(house).catch(tellError)
}

async function brought() {
  const file = chooser.value!.files?.[0]
  chooser.value!.value = ''
  const made = file && (await bringIn(file).catch(tellError))
  if (made) tell([`“${made.house.name}” is there for all clips now.`, made.told].filter(Boolean).join(' '))
}

function dress(house: House) {
  emit('dress', house)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" title="House styles" width="min(760px, 96vw)" @closed="$emit('close')">
    <p class="quiet">How your clips look: captions, logo, progress bar, colours, music, titles and names, cards at both ends, fades, editions, how names & terms are written.</p>
    <p v-if="!houses.length" class="quiet">None yet. Add what belongs to it to this clip (a title over its first words becomes the hook, a lower third the names), then save it here: every other clip gets it in one go.</p>
    <ul>
      <li v-for="(each, n) in houses" :key="each.key" data-test="house">
        <b>{{ each.name }}</b> <span v-if="wears(each)" class="quiet">applied to this clip</span>
        <span class="quiet parts">{{ each.parts.join(' · ') }}</span>
        <span v-if="each.shows.length" class="quiet parts">New clips of {{ each.shows.join(', ') }} begin with it.</span>
        <span v-if="told(n)" class="parts" data-test="would">{{ told(n) }}</span>
        <span class="acts">
          <el-button size="small" type="primary" @click="dress(each)">{{ dressed(each) }}</el-button>
          <el-button size="small" @click="be(each)">Update from this clip</el-button>
          <el-button size="small" @click="forNew(each)">{{ each.shows.length ? 'Stop using it for new clips' : 'Use for new clips of this show' }}</el-button>
          <el-button size="small" text tag="a" :href="`/api/house/${each.key}/file`" download>Export style</el-button>
          <el-button size="small" text @click="take(each)">Delete…</el-button>
        </span>
      </li>
    </ul>
    <form @submit.prevent="done(keep(doc.id, name.trim(), naming.trim()), (made) => `“${made.name}” is there for all clips now.`)">
      <el-input v-model="name" maxlength="60" placeholder="Name of the house style" aria-label="Name of the house style" />
      <el-input v-model="naming" maxlength="200" :placeholder="`File name pattern: ${choices?.name_pattern ?? ''}`" aria-label="File name pattern" :title="parts" />
      <el-button native-type="submit" :disabled="!name.trim()">Save this clip's style</el-button>
    </form>
    <p class="from">
      <input ref="chooser" type="file" accept=".zip" hidden data-test="house-file" @change="brought">
      <el-button size="small" @click="chooser?.click()">Import a style…</el-button>
    </p>
  </el-dialog>
</template>

<style scoped>
p { margin: 0 0 10px; font-size: 14px; }
ul { margin: 0 0 14px; padding: 0; list-style: none; border-top: 1px solid var(--rule); }
ul:empty { display: none; }
li { padding: 10px 0; border-bottom: 1px solid var(--rule); }
.parts, .acts { display: block; font-size: 13px; }
.acts { margin-top: 6px; }
.acts a { text-decoration: none; }
form { display: flex; gap: 8px; }
.from { margin: 12px 0 0; }
</style>
