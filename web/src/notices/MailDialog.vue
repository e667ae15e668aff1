<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, got, type Schemas } from '@/api/client'
import { tell, tellError } from '@/shared/tell'

/** Of what one has mail, and where to. */
const emit = defineEmits<{ close: [] }>()
const open = ref(true)
const mail = ref<Schemas['MailOut'] | null>(null)
const wrong = ref('')
onMounted(async () => { mail.value = (await got(api.GET('/api/notices/mail')).catch(tellError)) ?? null })

async function keep() {
  const { email, kinds } = mail.value!
  try {
    await got(api.PUT('/api/notices/mail', { body: { email, kinds: kinds as Schemas['MailWanted']['kinds'] } }))
    tell(email ? `Mail goes to ${email}.` : 'No mail is sent to you.')
    open.value = false
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <el-dialog v-model="open" append-to="main" data-own-keys title="Mail of what happens" width="min(420px, 96vw)" @closed="emit('close')">
    <form v-if="mail" id="mail" @submit.prevent="keep">
      <label>Address (empty for none) <el-input v-model="mail.email" type="email" :maxlength="254" autocomplete="email" aria-label="Address for mail" /></label>
      <el-checkbox-group v-model="mail.kinds" aria-label="Mail when">
        <el-checkbox v-for="(name, key) in mail.all_kinds" :key="key" :value="key">{{ name }}</el-checkbox>
      </el-checkbox-group>
      <p v-if="wrong" class="alarm" role="alert">{{ wrong }}</p>
    </form>
    <template #footer>
      <el-button @click="open = false">Cancel</el-button>
      <el-button type="primary" native-type="submit" form="mail">Keep</el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
label:not(.el-checkbox) { display: flex; flex-direction: column; gap: 4px; margin-bottom: 10px; font-size: 14px; }
.el-checkbox-group { display: flex; flex-direction: column; }
</style>
