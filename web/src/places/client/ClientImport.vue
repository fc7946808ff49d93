<script setup lang="ts">
import { ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { plural } from '../../shared/format'

const emit = defineEmits<{ stored: [] }>()
const file = ref<File | null>(null)
const report = ref<Schemas['ImportReport'] | null>(null)
const { busy, problem, act } = useAct()

const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    report.value = await call(
      api.POST('/api/clients/import', {
        params: { query: { country: 'ke', ...(keep ? { keep } : {}) } },
        body: file.value as never,
        bodySerializer: (body: unknown) => body as BodyInit,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    if (report.value.stored) emit('stored')
  })
function choose(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  report.value = null
  if (file.value) void send(null)
}
</script>

<template>
  <section class="import" aria-label="Import clients">
    <p>
      A CSV file or XLSX workbook whose first row names the columns: <em>Identifier</em> and <em>Name</em>, and if you
      have them Group, Date of birth, E-mail, Telephone, Postal address and the payout account.
    </p>
    <input type="file" accept=".csv,.xlsx,text/csv" aria-label="File with clients" @change="choose" />
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <template v-if="report">
      <p role="status">
        <template v-if="report.stored">{{ plural(report.stored, 'client') }} added.</template>
        <template v-else>
          {{ plural(report.rows, 'row') }}, {{ report.good }} without a problem. Nothing is stored yet.
        </template>
        <span v-if="report.ignored.length" class="secondary"> Not taken: {{ report.ignored.join(', ') }}.</span>
      </p>
      <p v-if="!report.stored" class="acts">
        <v-btn v-if="!report.problems.length" :disabled="busy" @click="send('all')">
          Add {{ plural(report.rows, 'client') }}
        </v-btn>
        <button v-else-if="report.good" class="link" :disabled="busy" @click="send('good')">
          {{ report.good === 1 ? 'Add the good one only' : `Add the ${report.good} good ones only` }}
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
  </section>
</template>

<style scoped>
.import {
  max-width: 900px;
  padding-bottom: 16px;
}
.acts {
  margin: 8px 0;
}
.wrong {
  color: var(--brick);
}
</style>
