<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plural } from './format'

/** How an import would go, or went: what was read, what is wrong by row and column, and what can be kept. */
defineProps<{ report: Schemas['ImportReport']; what: string; busy: boolean }>()
const emit = defineEmits<{ keep: ['all' | 'good'] }>()
</script>

<template>
  <p role="status">
    <template v-if="report.stored">{{ plural(report.stored, what) }} added.</template>
    <template v-else>
      {{ plural(report.rows, 'row') }}, {{ report.good }} without a problem. Nothing is stored yet.
    </template>
    <span v-if="report.ignored.length" class="secondary"> Not taken: {{ report.ignored.join(', ') }}.</span>
  </p>
  <p v-if="!report.stored" class="acts">
    <v-btn v-if="!report.problems.length" :disabled="busy" @click="emit('keep', 'all')">
      Add {{ plural(report.rows, what) }}
    </v-btn>
    <button v-else-if="report.good" class="link" :disabled="busy" @click="emit('keep', 'good')">
      {{ report.good === 1 ? 'Add the valid row only' : `Add the ${report.good} valid rows only` }}
    </button>
  </p>
  <table v-if="report.problems.length || report.doubts.length" class="plain">
    <thead>
      <tr>
        <th>Row</th>
        <th>Column</th>
        <th>Value</th>
        <th>What is wrong</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(item, index) in [...report.problems, ...report.doubts]" :key="index">
        <td>{{ item.row }}</td>
        <td>{{ item.column }}</td>
        <td>{{ item.value }}</td>
        <td :class="{ wrong: index < report.problems.length }">{{ item.message }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.acts {
  margin: 8px 0;
}
.wrong {
  color: var(--brick);
}
</style>
