<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plural } from './format'

/** How an import would go, or went: what was read, what is wrong by row and column, and what can be kept. */
defineProps<{ report: Schemas['ImportReport']; what: string; busy: boolean }>()
const emit = defineEmits<{ keep: ['all' | 'good'] }>()
const kinds = (against: Schemas['AgainstWhatIsHere']) =>
  (
    [
      ['New', against.added],
      ['Changed', against.changed],
      ['Not in the file', against.gone],
    ] as [string, string[]][]
  ).filter(([, names]) => names.length)
</script>

<template>
  <p role="status">
    <template v-if="report.stored"
      >{{ plural(report.stored, what) }} {{ report.against ? 'taken' : 'added' }}.</template
    >
    <template v-else>
      {{ plural(report.rows, 'row') }}, {{ report.good }} without a problem. Nothing is stored yet.
    </template>
    <span v-if="report.ignored.length" class="secondary"> Not taken: {{ report.ignored.join(', ') }}.</span>
  </p>
  <p v-if="!report.stored" class="acts">
    <v-btn v-if="!report.problems.length" :disabled="busy" @click="emit('keep', 'all')">
      {{ report.against ? 'Take' : 'Add' }} {{ plural(report.rows, what) }}
    </v-btn>
    <button v-else-if="report.good" class="link" :disabled="busy" @click="emit('keep', 'good')">
      {{ report.good === 1 ? 'Add the valid row only' : `Add the ${report.good} valid rows only` }}
    </button>
  </p>
  <div v-if="report.against && !report.stored" class="against">
    <p class="small">
      Beside what is here: {{ report.against.added.length }} new, {{ report.against.changed.length }} changed,
      {{ report.against.same }} unchanged, {{ report.against.gone.length }} not in the file.
    </p>
    <details v-for="[title, names] in kinds(report.against)" :key="title" class="small">
      <summary>{{ title }}: {{ names.length }}</summary>
      <ul>
        <li v-for="name in names" :key="name">{{ name }}</li>
      </ul>
    </details>
  </div>
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
.against ul {
  margin: 4px 0;
  padding-left: 18px;
}
.wrong {
  color: var(--brick);
}
</style>
