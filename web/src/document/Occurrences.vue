<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { clock } from '@/shared/format'

type Occurrence = Schemas['Occurrence']

/** Places that would read otherwise: look at each, then change those that are ticked as one edit. */
const props = defineProps<{ places: Occurrence[] | null; title: string }>()
const emit = defineEmits<{ apply: [changes: Occurrence['change'][]]; close: []; hear: [seconds: number] }>()

const taken = ref(new Set<number>())
watch(() => props.places, (places) => (taken.value = new Set(places?.keys() ?? [])))
const all = computed(() => taken.value.size === (props.places?.length ?? 0))

function take(n: number, is: boolean) {
  const now = new Set(taken.value)
  if (is) now.add(n)
  else now.delete(n)
  taken.value = now
}

function apply() {
  emit('apply', props.places!.filter((_, n) => taken.value.has(n)).map((place) => place.change))
}
</script>

<template>
  <el-dialog :model-value="places !== null" :title="title" width="640px" align-center @close="$emit('close')">
    <p v-if="!places?.length" class="quiet">Nothing else to change: no other place in this recording reads so.</p>
    <template v-else>
      <el-checkbox :model-value="all" :indeterminate="taken.size > 0 && !all" @change="taken = $event === true ? new Set(places!.keys()) : new Set()">
        All {{ places.length }}
      </el-checkbox>
      <ul>
        <li v-for="(place, n) in places" :key="place.change.words[0]">
          <el-checkbox :model-value="taken.has(n)" :aria-label="`Change ${place.now}`" @change="take(n, $event === true)" />
          <button title="Hear it" @click="$emit('hear', place.start)">
            <span class="time quiet">{{ clock(place.start, false) }}</span>
            {{ place.before }} <s>{{ place.now }}</s> <b>{{ place.change.text }}</b> {{ place.after }}
          </button>
        </li>
      </ul>
    </template>
    <template #footer>
      <el-button @click="$emit('close')">Cancel</el-button>
      <el-button v-if="places?.length" type="primary" :disabled="!taken.size" @click="apply">Change {{ taken.size }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
ul { max-height: 46vh; margin: 4px 0 0; padding: 0; overflow-y: auto; list-style: none; border-top: 1px solid var(--rule); }
li { display: flex; gap: 10px; align-items: flex-start; padding: 4px 0; border-bottom: 1px solid var(--rule); }
li button { padding: 4px 0; border: 0; background: none; color: var(--ink); font: 15px/1.45 var(--serif); text-align: left; cursor: pointer; }
s { color: var(--ink-2); text-decoration-color: var(--pencil); text-decoration-thickness: 2px; }
b { color: var(--pencil); font-weight: 600; }
</style>
