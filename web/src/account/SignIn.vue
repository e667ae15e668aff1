<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from './session'

const session = useSession()
const router = useRouter()
const route = useRoute()
const username = ref('')
const password = ref('')
const wrong = ref('')
const busy = ref(false)

async function enter() {
  busy.value = true
  wrong.value = ''
  try {
    await session.signIn(username.value, password.value)
    const to = String(route.query.to ?? '/')
    await router.push(to.startsWith('/') && !to.startsWith('//') ? to : '/')
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="sign-in" @submit.prevent="enter">
    <h1><img src="/mark.svg" alt="" width="32" height="32" /> Hovvet</h1>
    <p class="quiet">One long recording in, short captioned clips out.</p>
    <label for="username">Name</label>
    <el-input id="username" v-model="username" size="large" autocomplete="username" autofocus />
    <label for="password">Password</label>
    <el-input id="password" v-model="password" size="large" type="password" autocomplete="current-password" show-password />
    <p class="quiet small">Forgotten it? Ask your administrator to set a new one.</p>
    <p v-if="wrong" class="alarm" role="alert">{{ wrong }}</p>
    <el-button type="primary" size="large" native-type="submit" :loading="busy" :disabled="!username || !password">
      Sign in
    </el-button>
  </form>
</template>

<style scoped>
.sign-in { display: flex; flex-direction: column; gap: 8px; width: 340px; margin: 16vh auto 0; }
h1 { display: flex; gap: 10px; align-items: center; font-size: 26px; }
p { margin: 0 0 12px; }
.small { margin: 4px 0 0; font-size: 13px; }
label { margin-top: 6px; font-weight: 500; }
.el-button { margin-top: 16px; }
</style>
