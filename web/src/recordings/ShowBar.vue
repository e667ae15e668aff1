<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { computed } from 'vue'
import { sureToDelete } from '@/shared/ask'
import { tellError } from '@/shared/tell'
import type { Schemas } from '@/api/client'
import { useChoices } from '@/shared/useChoices'
import type { Show, useShows } from './useShows'

/** Choosing a show to look at, and its settings. What is brought in while a show is chosen belongs to it. */
const props = defineProps<{ shows: ReturnType<typeof useShows>; total: number }>()
type Quality = NonNullable<Schemas['HearAgain']['hears']>
const chosen = defineModel<string | null>({ required: true })

const list = computed(() => props.shows.query.data.value ?? [])
const choices = useChoices()
const languages = computed(() => choices.value?.languages ?? {})
const show = computed(() => list.value.find((each) => each.id === chosen.value))

async function ask(title: string, value: string, button: string) {
  const given = await ElMessageBox.prompt('Name', title, { inputValue: value, confirmButtonText: button, cancelButtonText: 'Cancel' }).catch(() => null)
  return given?.value.trim() ?? ''
}

async function add() {
  const name = await ask('New show', '', 'Add')
  if (!name) return
  try {
    chosen.value = (await props.shows.add(name)).id
  } catch (error) {
    tellError(error)
  }
}

async function rename(each: Show) {
  const name = await ask('Rename show', each.name, 'Rename')
  if (name) await props.shows.change(each, { name }).catch(tellError)
}

async function remove(each: Show) {
  if (!(await sureToDelete(`Delete the show “${each.name}”?`, 'Its recordings stay, without a show. Its names & terms go.'))) return
  chosen.value = null
  await props.shows.remove(each).catch(tellError)
}
</script>

<template>
  <div class="shows">
    <button :aria-pressed="chosen === null" @click="chosen = null">All <span class="time quiet">{{ total }}</span></button>
    <button v-for="each in list" :key="each.id" :aria-pressed="chosen === each.id" @click="chosen = each.id">
      {{ each.name }} <span class="time quiet">{{ each.count }}</span>
    </button>
    <el-button text size="small" @click="add">New show</el-button>
    <template v-if="show">
      <span class="grow" />
      <label v-if="Object.keys(choices?.hearing ?? {}).length > 1" title="How carefully new recordings of this show are listened to">Listening
        <select :value="show.hears" @change="shows.change(show!, { hears: ($event.target as HTMLSelectElement).value as Quality }).catch(tellError)">
          <option v-for="(name, key) in choices?.hearing" :key="key" :value="key">{{ name }}</option>
        </select>
      </label>
      <label title="Whether only what reviewers approved is sent to outlets"><input type="checkbox" :checked="show.approved_only" @change="shows.change(show!, { approved_only: ($event.target as HTMLInputElement).checked }).catch(tellError)"> Sent only when approved</label>
      <label>Language
        <select :value="show.language" @change="shows.change(show!, { language: ($event.target as HTMLSelectElement).value }).catch(tellError)">
          <option v-for="(name, code) in languages" :key="code" :value="code">{{ name }}</option>
        </select>
      </label>
      <el-button text size="small" @click="rename(show!)">Rename</el-button>
      <el-button text size="small" @click="remove(show!)">Delete show</el-button>
    </template>
  </div>
</template>

<style scoped>
.shows { display: flex; flex-wrap: wrap; gap: 4px 18px; align-items: center; margin-top: 10px; min-height: 34px; }
.shows > button:not(.el-button) { padding: 4px 0; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--ink-2); font-weight: 500; cursor: pointer; }
.shows > button[aria-pressed='true'] { border-bottom-color: var(--pencil); color: var(--ink); }
.grow { flex: 1; }
label { font-size: 13px; }
select { padding: 2px 4px; border: 1px solid var(--rule); border-radius: 4px; background: var(--paper); color: var(--ink); font-size: 13px; }
</style>
