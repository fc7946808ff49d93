<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What is wrong in a workbook, by sheet, row and column. */
defineProps<{ problems: Schemas['WorkbookRemark'][] }>()
</script>

<template>
  <table v-if="problems.length" class="plain">
    <thead>
      <tr>
        <th>Sheet</th>
        <th>Row</th>
        <th>Column</th>
        <th>Value</th>
        <th>What is wrong</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(item, index) in problems" :key="index">
        <td>{{ item.sheet }}</td>
        <td>{{ item.row }}</td>
        <td>{{ item.column }}</td>
        <td>{{ item.value }}</td>
        <td class="wrong">{{ item.message }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.wrong {
  color: var(--brick);
}
</style>
