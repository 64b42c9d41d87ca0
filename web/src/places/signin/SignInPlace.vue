<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '@/api/client'
import { signedIn } from '@/session'
import { useAsked } from '@/shared/useAsked'
import { useDoing } from '@/shared/useDoing'
import TextButton from '@/shared/TextButton.vue'
import BrandMark from '@/shared/BrandMark.vue'

const route = useRoute()
const router = useRouter()
const name = ref('')
const password = ref('')
const { problem, busy: waiting, doing } = useDoing()
const { data: hints } = useAsked(() => api.GET('/hints'))

async function signIn() {
  const body = { name: name.value, password: password.value }
  const { data } = await doing(() => api.POST('/session', { body }))
  if (!data) return
  signedIn(data)
  const to = typeof route.query.to === 'string' && route.query.to.startsWith('/') ? route.query.to : '/floor'
  await router.push(to)
}

function useDemo(demo: Schemas['SignIn']) {
  name.value = demo.name
  password.value = demo.password
  void signIn()
}
</script>

<template>
  <div class="page">
    <div class="web" aria-hidden="true"><span v-for="n in 7" :key="n" /></div>
    <form @submit.prevent="signIn">
      <p class="mark">
        <BrandMark :size="34" />
        Odd Spool
      </p>
      <h1>Sign in</h1>
      <label for="name">Name</label>
      <NInput v-model:value="name" placeholder="" :input-props="{ id: 'name', autocomplete: 'username' }" />
      <label for="password">Password</label>
      <NInput
        v-model:value="password"
        type="password"
        placeholder=""
        :input-props="{ id: 'password', autocomplete: 'current-password' }"
      />
      <p v-if="problem" class="bad" role="alert">{{ problem.text }}</p>
      <NButton type="primary" attr-type="submit" :loading="waiting" block>Sign in</NButton>
      <p v-if="hints?.demo" class="quiet demo">
        This is a demonstration. Its account is <b>{{ hints.demo.name }}</b> with the password
        <b class="mono">{{ hints.demo.password }}</b>.
        <TextButton @click="useDemo(hints.demo)">Sign in with it</TextButton>
      </p>
    </form>
  </div>
</template>

<style scoped>
.page {
  display: grid;
  grid-template-columns: minmax(240px, 34%) 1fr;
  height: 100%;
}
.web {
  background: var(--liner);
  border-right: 1px solid var(--liner-edge);
  display: flex;
  flex-direction: column;
  gap: 20px;
  padding: 0 16%;
  overflow: hidden;
}
.web span {
  flex: none;
  height: 26%;
  background: var(--label);
  border-radius: 10px;
}
.web span:first-child {
  height: 12%;
  border-radius: 0 0 10px 10px;
}
form {
  align-self: center;
  justify-self: center;
  width: 330px;
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.mark {
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: 22px;
  font-weight: 600;
  color: var(--accent);
  margin-bottom: 18px;
}
label {
  font-weight: 500;
  margin-top: 6px;
}
.demo {
  margin-top: 14px;
}
form :deep(.n-button) {
  margin-top: 12px;
}
</style>
