<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import ImportReport from '../../shared/ImportReport.vue'

const emit = defineEmits<{ stored: [] }>()
const file = ref<File | null>(null)
const country = ref('ke')
const countries = ref<Schemas['CountryView'][]>([])
const report = ref<Schemas['ImportReport'] | null>(null)
const { busy, problem, act } = useAct()

onMounted(async () => (countries.value = await call(api.GET('/api/countries'))))
const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    report.value = await call(
      api.POST('/api/clients/import', {
        params: { query: { country: country.value, ...(keep ? { keep } : {}) } },
        ...fileBody(file.value!),
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
  <section class="import among" aria-label="Import clients">
    <h3>Clients from a list</h3>
    <p>
      A CSV file or XLSX workbook whose first row names the columns: <em>Identifier</em> and <em>Name</em>, and if you
      have them Kind, Group, Date of birth, Financial year end, E-mail, Telephone, Postal address and the payout
      account.
    </p>
    <select v-model="country" aria-label="Country of the clients">
      <option v-for="item in countries" :key="item.code" :value="item.code">{{ item.name }}</option>
    </select>
    <input type="file" accept=".csv,.xlsx,text/csv" aria-label="File with clients" @change="choose" />
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <ImportReport v-if="report" :report="report" what="client" :busy="busy" @keep="send" />
  </section>
</template>

<style scoped>
select {
  margin-right: 14px;
}
.import {
  max-width: 900px;
  padding-bottom: 16px;
}
</style>
