<script setup lang="ts">
// The sign of Odd Spool: a spool from whose core the web runs out.
defineProps<{ size: number }>()
</script>

<template>
  <svg
    viewBox="0 0 24 24"
    :width="size"
    :height="size"
    fill="none"
    stroke="currentColor"
    stroke-width="2"
    aria-hidden="true"
  >
    <circle cx="12" cy="12" r="10" />
    <circle cx="12" cy="12" r="3.5" fill="currentColor" stroke="none" />
    <path d="M15 12h6.6" />
  </svg>
</template>
