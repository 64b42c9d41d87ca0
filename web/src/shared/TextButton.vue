<script setup lang="ts">
// A button that reads like a link: in a sentence, a row or a list. NButton's text form neither wraps nor sits on
// the line of the words around it.
</script>
<template>
  <button type="button" class="text-button"><slot /></button>
</template>
<style>
.text-button {
  border: 0;
  background: none;
  padding: 0;
  font: inherit;
  font-weight: 500;
  color: var(--accent);
  cursor: pointer;
}
.text-button:hover {
  text-decoration: underline;
}
.text-button:disabled {
  color: var(--quiet);
  cursor: default;
  text-decoration: none;
}
</style>
