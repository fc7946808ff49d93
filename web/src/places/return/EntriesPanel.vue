<script setup lang="ts">
import { inject, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import FileLink from '../../shared/FileLink.vue'
import { plural } from '../../shared/format'
import WorkbookProblems from '../../shared/WorkbookProblems.vue'
import type { ReturnStore } from '../../return/returnStore'

/** All entries as a workbook: out, filled elsewhere, and back, tried first and told by sheet, row and column. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const { busy, problem, act } = useAct()
const file = ref<File | null>(null)
const report = ref<Schemas['WorkbookReport'] | null>(null)

const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    await store.queue.settled()
    report.value = await call(
      api.POST('/api/returns/{id}/entries/import', {
        params: { path: { id: store.id }, query: { name: file.value!.name, ...(keep ? { keep } : {}) } },
        ...fileBody(file.value!),
      }),
    )
    if (report.value.stored) await store.reload()
  })
function choose(files: File[]) {
  file.value = files[0] ?? null
  report.value = null
  if (file.value) void send(null)
}
const what = (found: Schemas['WorkbookReport']) =>
  [plural(found.changes, 'entry', 'entries'), found.newRows ? plural(found.newRows, 'new row') : '']
    .filter(Boolean)
    .join(' and ')
</script>

<template>
  <section aria-label="Entries as a workbook">
    <p>
      <a :href="`/api/returns/${store.id}/entries.xlsx`" download>Download the entries, XLSX</a>
    </p>
    <p class="secondary">
      A sheet for each form and each list, with pick lists and limits in the cells. Fill it elsewhere and bring it back:
      a blank cell changes nothing, and no row is removed.
    </p>
    <p v-if="session.mayPrepare && !store.locked">
      <FileLink label="Filled workbook" :busy="busy" @chosen="choose">Upload a filled workbook</FileLink>
    </p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <template v-if="report">
      <p role="status">
        <template v-if="report.stored">{{ what(report) }} taken from {{ file?.name }}.</template>
        <template v-else-if="!report.changes && !report.problems.length"
          >The workbook says what the return says.</template
        >
        <template v-else
          >{{ what(report) }} differ{{
            report.problems.length ? `, ${plural(report.problems.length, 'cell')} cannot be read` : ''
          }}. Nothing is stored yet.</template
        >
        <span v-if="report.ignored.length" class="secondary"> Not taken: {{ report.ignored.join(', ') }}.</span>
      </p>
      <p v-if="!report.stored && report.changes">
        <v-btn v-if="!report.problems.length" :disabled="busy" @click="send('all')">Take {{ what(report) }}</v-btn>
        <button v-else class="link" :disabled="busy" @click="send('good')">
          Take the {{ what(report) }} that can be read
        </button>
      </p>
      <WorkbookProblems :problems="report.problems" />
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 8px 0;
}
</style>
