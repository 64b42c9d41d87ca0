<script setup lang="ts">
import { NModal } from 'naive-ui'
import { keys } from './useKeys'

const show = defineModel<boolean>('show', { required: true })
</script>

<template>
  <NModal v-model:show="show" preset="card" title="Keys" style="width: 560px">
    <table class="plain">
      <tbody>
        <tr v-for="[key, does] in keys" :key="key">
          <td class="mono">{{ key }}</td>
          <td>{{ does }}</td>
        </tr>
      </tbody>
    </table>
  </NModal>
</template>
