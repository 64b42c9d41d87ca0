<script setup lang="ts">
import { NDropdown, useMessage } from 'naive-ui'
import { computed, onScopeDispose, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '@/api/client'
import { user } from '@/session'
import TextButton from '@/shared/TextButton.vue'
import { units } from './format'
import FindAnything from './FindAnything.vue'
import BrandMark from './BrandMark.vue'

const theme = defineModel<'light' | 'dark' | 'system'>('theme', { required: true })
const router = useRouter()
const finding = ref(false)

// The code of a place cannot be had.
const message = useMessage()
onScopeDispose(
  router.onError((_error, to) => {
    const place = typeof to.meta.title === 'string' ? to.meta.title : 'The page'
    message.error(`${place} cannot be opened: the server does not answer. Nothing is lost; try again.`)
  }),
)

const places = [
  { to: '/floor', name: 'Floor' },
  { to: '/bench', name: 'Bench' },
  { to: '/records', name: 'Records' },
  { to: '/stockroom', name: 'Stockroom' },
  { to: '/runs', name: 'Runs' },
  { to: '/reference', name: 'Reference' },
]
const menu = computed(() => [
  { key: 'light', label: (theme.value === 'light' ? '✓ ' : '') + 'Paper (light)' },
  { key: 'dark', label: (theme.value === 'dark' ? '✓ ' : '') + 'Shop floor (dark)' },
  { key: 'units', type: 'divider' },
  { key: 'mm', label: (units.value === 'mm' ? '✓ ' : '') + 'Millimetres' },
  { key: 'in', label: (units.value === 'in' ? '✓ ' : '') + 'Inches' },
  { key: 'line', type: 'divider' },
  { key: 'you', label: 'Your sessions' },
  { key: 'audit', label: 'Audit log' },
  { key: 'about', label: 'About Odd Spool' },
  { key: 'out', label: 'Sign out' },
])

async function choose(key: string) {
  if (key === 'light' || key === 'dark') {
    theme.value = key
    return
  }
  if (key === 'mm' || key === 'in') {
    units.value = key
    await api.PUT('/session/units', { body: { units: key } })
    return
  }
  if (key === 'you' || key === 'audit' || key === 'about') {
    await router.push(`/${key}`)
    return
  }
  await api.DELETE('/session')
  user.value = ''
  await router.push('/sign-in')
}
</script>

<template>
  <header class="bar">
    <RouterLink to="/floor" class="mark">
      <BrandMark :size="21" />
      Odd Spool
    </RouterLink>
    <nav aria-label="Places">
      <RouterLink v-for="place in places" :key="place.to" :to="place.to" active-class="here">{{
        place.name
      }}</RouterLink>
    </nav>
    <span class="room" />
    <button type="button" class="find" @click="finding = true">
      <span>Find anything</span><kbd>Ctrl K</kbd>
    </button>
    <NDropdown trigger="click" :options="menu" @select="choose">
      <TextButton class="who" aria-haspopup="menu">{{ user }}</TextButton>
    </NDropdown>
    <FindAnything v-model:open="finding" />
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: stretch;
  height: 48px;
  padding: 0 20px;
  border-bottom: 1px solid var(--line);
  flex: none;
}
.mark {
  display: flex;
  align-items: center;
  gap: 8px;
  font-weight: 600;
  color: var(--accent);
  text-decoration: none;
  margin-right: 24px;
}
nav {
  display: flex;
  gap: 22px;
}
nav a {
  display: flex;
  align-items: center;
  color: var(--quiet);
  font-weight: 500;
  text-decoration: none;
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
nav a.here {
  color: var(--ink);
  border-bottom-color: var(--accent);
}
.room {
  flex: 1;
}
.find {
  align-self: center;
  display: flex;
  justify-content: space-between;
  align-items: center;
  width: 220px;
  height: 32px;
  padding: 0 10px;
  border: 1px solid var(--control);
  border-radius: 6px;
  background: var(--raised);
  color: var(--quiet);
  font: inherit;
  cursor: pointer;
}
kbd {
  font:
    12px 'IBM Plex Mono',
    monospace;
}
.who {
  align-self: center;
  margin-left: 20px;
  color: var(--ink);
}
@media (pointer: coarse) {
  .find {
    height: 40px;
  }
}
@media (max-width: 900px) {
  .find {
    width: 110px;
  }
  .find kbd {
    display: none;
  }
}
@media (max-width: 640px) {
  .bar {
    padding: 0 8px;
  }
  .mark,
  .find {
    display: none;
  }
  nav {
    gap: 8px;
    min-width: 0;
    overflow-x: auto; /* a long name of who it is leaves less */
  }
  .who {
    margin-left: 8px;
  }
}
</style>
