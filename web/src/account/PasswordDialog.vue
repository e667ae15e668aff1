<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, got } from '@/api/client'
import { tell } from '@/shared/tell'
import { useSession } from './session'

/** Changing one's own password. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()

const session = useSession()
const old = ref('')
const fresh = ref('')
const wrong = ref('')
watch(() => props.open, () => (old.value = fresh.value = wrong.value = ''))

async function change() {
  try {
    session.take(await got(api.POST('/api/session/password', { body: { old: old.value, new: fresh.value } })))
    tell('Your password is changed. Other browsers are signed out.')
    emit('close')
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <el-dialog :model-value="open" title="Change password" width="400px" align-center @close="emit('close')">
    <form id="password-form" @submit.prevent="change">
      <label for="old-password">Present password</label>
      <el-input id="old-password" v-model="old" type="password" autocomplete="current-password" autofocus />
      <label for="new-password">New password</label>
      <el-input id="new-password" v-model="fresh" type="password" autocomplete="new-password" show-password />
      <p v-if="wrong" class="alarm" role="alert">{{ wrong }}</p>
    </form>
    <template #footer>
      <el-button @click="emit('close')">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="password-form" :disabled="!old || !fresh">Change</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
label { display: block; margin: 8px 0 4px; font-weight: 500; }
p { margin: 10px 0 0; font-size: 14px; }
</style>
