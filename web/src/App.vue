<script setup lang="ts">
import { useLocalStorage, useMediaQuery, usePreferredDark } from '@vueuse/core'
import { darkTheme, lightTheme, NConfigProvider, NMessageProvider } from 'naive-ui'
import { computed, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import TopBar from './shared/TopBar.vue'
import { dark, light, overrides, properties } from './theme'

const route = useRoute()
const wanted = useLocalStorage<'light' | 'dark' | 'system'>('theme', 'light')
const prefersDark = usePreferredDark()
const isDark = computed(() => wanted.value === 'dark' || (wanted.value === 'system' && prefersDark.value))
const fingers = useMediaQuery('(pointer: coarse)')
const tokens = computed(() => (isDark.value ? dark : light))
watchEffect(() => {
  for (const [name, value] of Object.entries(properties(tokens.value)))
    document.documentElement.style.setProperty(name, value)
  document.documentElement.style.colorScheme = isDark.value ? 'dark' : 'light'
})
</script>

<template>
  <NConfigProvider
    abstract
    :theme="isDark ? darkTheme : lightTheme"
    :theme-overrides="overrides(tokens, fingers)"
    inline-theme-disabled
  >
    <NMessageProvider placement="bottom">
      <div class="frame">
        <TopBar v-if="route.name && route.name !== 'sign-in'" v-model:theme="wanted" />
        <main class="main"><RouterView :key="route.path" /></main>
      </div>
    </NMessageProvider>
  </NConfigProvider>
</template>

<style scoped>
.frame {
  display: flex;
  flex-direction: column;
  height: 100%;
}
.main {
  flex: 1;
  min-height: 0;
}
</style>
