<script setup lang="ts">
import { inject, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ImportReport from '../shared/ImportReport.vue'
import { rowsNow } from '../return/importStep'
import type { ReturnStore, Section } from '../return/returnStore'

/** The rows as a file: template out, filled file in, rows out. */
const props = defineProps<{ section: Section }>()
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const open = ref(false)
const file = ref<File | null>(null)
const replace = ref(false)
const report = ref<Schemas['ImportReport'] | null>(null)
const address = `/api/returns/${store.id}/lists/${props.section.table!.key}`

const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    const before = rowsNow(store, props.section)
    report.value = await call(
      api.POST('/api/returns/{id}/lists/{section}/import', {
        params: {
          path: { id: store.id, section: props.section.table!.key },
          query: { name: file.value!.name, replace: replace.value, ...(keep ? { keep } : {}) },
        },
        ...fileBody(file.value!),
      }),
    )
    if (!report.value.stored) return
    await store.reload()
    store.imported(props.section, before, file.value!.name)
  })
function choose(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  report.value = null
  if (file.value) void send(null)
}
</script>

<template>
  <button type="button" class="link" :aria-expanded="open" @click="open = !open">Files</button>
  <section v-if="open" class="files" aria-label="Rows as a file">
    <p>
      Template with the codes: <a :href="`${address}/template.xlsx`" download>XLSX</a>
      <a :href="`${address}/template.csv`" download>CSV</a>
      <span class="apart">The rows: </span><a :href="`${address}/rows.xlsx`" download>XLSX</a>
      <a :href="`${address}/rows.csv`" download>CSV</a>
    </p>
    <template v-if="!store.locked">
      <p>
        <label
          >Filled file, XLSX or CSV: <input type="file" accept=".xlsx,.csv,.txt" :disabled="busy" @change="choose"
        /></label>
      </p>
      <p>
        <label
          ><input v-model="replace" type="checkbox" />
          {{
            section.table!.knownBy
              ? `remove each ${section.table!.rowLabel} that is not in the file`
              : 'in place of the rows that are here'
          }}</label
        >
      </p>
    </template>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <ImportReport v-if="report" :report="report" :what="section.table!.rowLabel" :busy="busy" @keep="send" />
  </section>
</template>

<style scoped>
.files {
  flex-basis: 100%;
  border-left: 2px solid var(--verdigris);
  padding: 4px 14px 8px;
  background: var(--paper);
}
.files p {
  margin: 4px 0;
}
.files a {
  margin-right: 10px;
}
.apart {
  margin-left: 26px;
}
</style>
