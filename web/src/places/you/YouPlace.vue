<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import { api } from '@/api/client'
import { moment, plural } from '@/shared/format'
import ProblemNote from '@/shared/ProblemNote.vue'
import { useDoing } from '@/shared/useDoing'
import { usePolled } from '@/shared/usePolled'
import { user } from '@/session'
import { browserName } from './browser'

/** Where the account is signed in, to be ended by its owner. */
const { data: sessions, problem: unread, refresh } = usePolled(() => api.GET('/sessions'), 10_000)
const { problem, busy, doing } = useDoing()
const others = computed(() => sessions.value?.filter((s) => !s.here).length ?? 0)

async function end(id: number) {
  await doing(() => api.DELETE('/sessions/{id}', { params: { path: { id } } }))
  await refresh()
}
async function endOthers() {
  await doing(() => api.DELETE('/sessions'))
  await refresh()
}
</script>

<template>
  <div class="place">
    <header class="place-head">
      <h1>Where {{ user }} is signed in</h1>
      <span v-if="sessions" class="quiet">{{ plural(sessions.length, 'session') }}</span>
      <span class="room" />
      <NButton v-if="others" size="large" :disabled="busy" @click="endOthers"
        >End {{ others === 1 ? 'the other' : `the other ${String(others)}` }}</NButton
      >
    </header>
    <ProblemNote :problem="problem ?? unread" />
    <table v-if="sessions" class="plain">
      <thead>
        <tr>
          <th>Browser</th>
          <th>Address</th>
          <th>Signed in</th>
          <th>Last seen</th>
          <th><span class="unseen">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="session in sessions" :key="session.id">
          <td :title="session.agent">
            {{ browserName(session.agent) }} <span v-if="session.here" class="strong">· here</span>
          </td>
          <td class="mono">{{ session.address }}</td>
          <td>{{ moment(session.beganAt) }}</td>
          <td>{{ moment(session.seenAt) }}</td>
          <td class="number">
            <NButton v-if="!session.here" :disabled="busy" @click="end(session.id)">End it</NButton>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="note quiet">
      A session that you do not know is one that somebody else began with your password. End it, and ask for a
      new password: it ends all sessions there are.
    </p>
  </div>
</template>

<style scoped>
.note {
  padding: 14px 20px;
  max-width: 78ch;
}
</style>
