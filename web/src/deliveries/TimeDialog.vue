<script setup lang="ts">
import { reactive, ref } from 'vue'
import { nextHour } from './narrowing'
import type { Posting } from './useOutbox'
import WhenFields from './WhenFields.vue'

/** Another time for a post. */
const props = defineProps<{ posting: Posting; zones: string[]; ownZone: string }>()
const emit = defineEmits<{ close: []; at: [at: string, zone: string] }>()
const open = ref(true)
const at = reactive({ ...nextHour(new Date()), zone: props.ownZone })
function go() {
  emit('at', `${at.day}T${at.time}`, at.zone)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" append-to="main" data-own-keys :title="`When “${posting.title}” goes out`" width="min(460px, 96vw)" @closed="emit('close')">
    <form id="another-time" @submit.prevent="go"><WhenFields v-model:day="at.day" v-model:time="at.time" v-model:zone="at.zone" :zones="zones" /></form>
    <template #footer>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="another-time">Plan it then</el-button>
    </template>
  </el-dialog>
</template>
