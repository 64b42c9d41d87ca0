<script setup lang="ts">
defineProps<{ name: string }>()
</script>

<template>
  <div class="row">
    <span class="name">{{ name }}</span>
    <span class="value"><slot /></span>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
  min-height: 34px;
  padding: 3px 0;
  border-bottom: 1px dotted var(--control);
}
.name {
  flex: none;
}
.value {
  min-width: 0;
  text-align: right;
  font-weight: 500;
}
</style>
