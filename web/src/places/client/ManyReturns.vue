<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import FileLink from '../../shared/FileLink.vue'
import { partOf, plural } from '../../shared/format'
import WorkbookProblems from '../../shared/WorkbookProblems.vue'

/** Returns of many clients in one workbook: out, filled elsewhere, and back; clients and returns that are not there yet are added. */
const emit = defineEmits<{ stored: [] }>()
const types = ref<Schemas['ReturnTypeView'][]>([])
const definition = ref('')
const year = ref(0)
const period = ref('')
const included = ref<'none' | 'mine' | 'all'>('none')
const file = ref<File | null>(null)
const report = ref<Schemas['ManyReport'] | null>(null)
const { busy, problem, act } = useAct()

onMounted(async () => {
  types.value = await call(api.GET('/api/return-types'))
  definition.value = types.value[0]?.id ?? ''
})
const type = computed(() => types.value.find((t) => t.id === definition.value))
watch(type, (now) => {
  year.value = now?.years.at(-1) ?? 0
  period.value = now?.periods[0] ?? ''
})
watch([definition, year, period], () => (report.value = null))
const of = computed(() => ({ definition: definition.value, year: year.value, period: period.value }))
const download = computed(
  () =>
    `/api/many-returns/workbook.xlsx?${new URLSearchParams({ definition: definition.value, year: `${year.value}`, period: period.value, with: included.value })}`,
)

const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    report.value = await call(
      api.POST('/api/many-returns/import', {
        params: { query: { ...of.value, name: file.value!.name, ...(keep ? { keep } : {}) } },
        ...fileBody(file.value!),
      }),
    )
    if (report.value.stored) emit('stored')
  })
function choose(files: File[]) {
  file.value = files[0] ?? null
  report.value = null
  if (file.value) void send(null)
}
const what = (found: Schemas['ManyReport']) =>
  [
    plural(found.changes, 'entry', 'entries'),
    plural(found.newRows, 'new row'),
    plural(found.newReturns, 'new return'),
    plural(found.newClients, 'new client'),
  ]
    .filter((words) => !words.startsWith('0 '))
    .join(', ')
</script>

<template>
  <section class="many among" aria-label="Returns of many clients">
    <h3>Returns of many clients</h3>
    <p class="secondary">
      One workbook: a row for each client on the sheet of each form, a row for each item of a list. Clients and returns
      that are not here yet are added. A blank cell changes nothing, and no row is removed.
    </p>
    <p class="chosen">
      <select v-model="definition" aria-label="Return">
        <option v-for="item in types" :key="item.id" :value="item.id">{{ item.title }}</option>
      </select>
      <select v-model="year" aria-label="Year">
        <option v-for="item in [...(type?.years ?? [])].reverse()" :key="item" :value="item">{{ item }}</option>
      </select>
      <select v-if="(type?.periods.length ?? 0) > 1" v-model="period" aria-label="Period">
        <option v-for="item in type!.periods" :key="item" :value="item">{{ partOf(item) }}</option>
      </select>
      <select v-model="included" aria-label="Returns in the workbook">
        <option value="none">Empty</option>
        <option value="mine">With the open returns assigned to me</option>
        <option value="all">With all open returns</option>
      </select>
      <a :href="download" download>Download the workbook, XLSX</a>
    </p>
    <p>
      <FileLink label="Filled workbook of many clients" :busy="busy" @chosen="choose"
        >Upload a filled workbook</FileLink
      >
    </p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <template v-if="report">
      <p role="status">
        <template v-if="report.stored"
          >{{ what(report) || 'Nothing new' }}: taken from {{ file?.name }}, for
          {{ plural(report.good, 'client') }}.</template
        >
        <template v-else-if="!what(report) && !report.problems.length"
          >The workbook says what the returns of {{ plural(report.clients, 'client') }} say.</template
        >
        <template v-else
          >{{ plural(report.clients, 'client') }}, {{ report.good }} without a fault{{
            what(report) ? `: ${what(report)}` : ''
          }}. Nothing is stored yet.</template
        >
        <span v-if="report.ignored.length" class="secondary"> Not taken: {{ report.ignored.join(', ') }}.</span>
      </p>
      <p v-if="!report.stored && what(report)">
        <v-btn v-if="!report.problems.length" :disabled="busy" @click="send('all')">Take {{ what(report) }}</v-btn>
        <button v-else class="link" :disabled="busy" @click="send('good')">
          Take {{ report.good === 1 ? 'the client' : `the ${report.good} clients` }} without a fault
        </button>
      </p>
      <WorkbookProblems :problems="report.problems" />
    </template>
  </section>
</template>

<style scoped>
.many {
  border-top: 1px solid var(--hairline);
  max-width: 900px;
  padding: 14px 0 16px;
}
.chosen {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: baseline;
}
</style>
