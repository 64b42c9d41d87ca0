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
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 2px 8px;
  min-height: 34px;
  padding: 3px 0;
  border-bottom: 1px dotted var(--control);
}
.name {
  flex: none;
}
.value {
  max-width: 100%;
  margin-left: auto;
  text-align: right;
  font-weight: 500;
}
</style>
