<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { size } from '@/shared/format'
import JobLine from '@/shared/JobLine.vue'
import { useChoices } from '@/shared/useChoices'
import { usePackage } from './usePackage'

/** What goes with clips, in one file: chosen, packed in the background, fetched. */
const props = defineProps<{ clips: string[]; editions?: { id: string; name: string }[]; pattern?: string }>()
const emit = defineEmits<{ close: [] }>()

const open = ref(true)
const choices = useChoices()
const { made, begin, retry, cancel } = usePackage()
const parts = useStorage<string[] | null>('hovvet-package-parts', null)
const chosen = computed<string[]>({ get: () => parts.value ?? Object.keys(choices.value?.package_parts ?? {}), set: (now) => (parts.value = now) })
const editions = ref((props.editions ?? []).map((each) => each.id))
const pack = () => begin({ clips: props.clips, editions: editions.value, parts: chosen.value, pattern: props.pattern ?? '' })
const address = computed(() => (made.value?.ready ? `/api/packages/${made.value.id}/package.zip` : ''))
const link = ref<HTMLAnchorElement | null>(null)
watch(address, (now, before) => { if (now && !before) setTimeout(() => link.value?.focus()) })
const what = computed(() => (props.clips.length === 1 ? 'this clip' : `${props.clips.length} clips`))
</script>

<template>
  <el-dialog v-model="open" append-to="main" data-own-keys title="Package" width="min(520px, 96vw)" @closed="emit('close')">
    <p class="quiet">All that goes with {{ what }} in one .zip, with a list of sizes and checksums. It can be fetched for a day.</p>
    <el-checkbox-group v-if="editions.length || props.editions?.length" v-model="editions" class="group" aria-label="Editions">
      <el-checkbox v-for="each in props.editions" :key="each.id" :value="each.id">{{ each.name }}</el-checkbox>
    </el-checkbox-group>
    <el-checkbox-group v-model="chosen" class="group" aria-label="What is packed">
      <el-checkbox v-for="(name, key) in choices?.package_parts" :key="key" :value="key">{{ name }}</el-checkbox>
    </el-checkbox-group>
    <JobLine v-if="made?.job && !made.ready" :job="made.job" name="Package" @cancel="cancel" @retry="retry" />
    <template v-if="made?.ready">
      <p><a ref="link" :href="address" download data-test="package">Download the package ({{ size(made.bytes) }})</a></p>
      <div v-if="made.left_out.length" role="status">
        <p>Not in it:</p>
        <ul><li v-for="each in made.left_out" :key="each">{{ each }}</li></ul>
      </div>
    </template>
    <template #footer>
      <el-button @click="open = false">Close</el-button>
      <el-button type="primary" :disabled="!chosen.length || (!!props.editions?.length && !editions.length) || (!!made?.job && !made.ready && made.job.state !== 'failed')" data-test="pack" @click="pack">{{ made?.ready ? 'Pack again' : 'Pack' }}</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
p { margin: 0 0 10px; font-size: 14px; }
ul { margin: 0; padding-left: 18px; font-size: 13px; }
.group { display: grid; grid-template-columns: 1fr 1fr; margin-bottom: 12px; }
</style>
