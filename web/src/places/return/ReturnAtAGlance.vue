<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import SeverityMark from '../../shared/SeverityMark.vue'
import { amount, difference, moment, plural } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** What somebody who approves a return looks at: its figures beside last year, what was accepted and why, what was not chosen, remarks, papers. */
const store = inject<ReturnStore>('return')!
const documents = ref<Schemas['DocumentView'][]>([])
onMounted(async () => {
  const all = await call(
    api.GET('/api/clients/{id}/documents', { params: { path: { id: store.view.value.clientId } } }),
  ).catch(() => [])
  documents.value = all.filter((d) => d.returnId === store.id)
})

const lastYear = computed(() => store.view.value.lastYear)
const figures = computed(() =>
  store.layout.outcome.map((figure) => {
    const now = store.valueOf(figure.line, null)?.value ?? '0'
    const before = lastYear.value ? (lastYear.value.values[figure.line] ?? '0') : null
    return { ...figure, now, before, change: before === null ? null : difference(now, before) }
  }),
)
const accepted = computed(() => store.findings.value.filter((f) => f.acceptance))
const notes = computed(() => store.findings.value.filter((f) => f.severity === 'note'))
</script>

<template>
  <section aria-label="The return at a glance">
    <div class="rule-head">
      <h2>The return</h2>
      <a class="small" :href="`/api/returns/${store.id}/printed-copy.pdf`" target="_blank" rel="noopener"
        >Printed copy of all lines</a
      >
    </div>
    <table class="plain">
      <thead v-if="lastYear">
        <tr>
          <th></th>
          <th class="amount">{{ lastYear.year }}</th>
          <th class="amount">{{ store.view.value.year }}</th>
          <th class="amount">Change</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="figure in figures" :key="figure.line">
          <td>
            <router-link :to="store.placeOfLine(figure.line)">{{ figure.label }}</router-link>
          </td>
          <td v-if="lastYear" class="amount secondary">{{ amount(figure.before) }}</td>
          <td class="amount">{{ amount(figure.now) || '0' }}</td>
          <td v-if="lastYear" class="amount secondary">{{ figure.change === '0' ? '' : amount(figure.change) }}</td>
        </tr>
      </tbody>
    </table>

    <template v-if="accepted.length">
      <h3>{{ plural(accepted.length, 'warning') }} accepted</h3>
      <div v-for="finding in accepted" :key="finding.id + finding.row" class="said">
        <SeverityMark severity="warning" />
        <span>
          <router-link v-if="finding.lines[0]" :to="store.placeOfLine(finding.lines[0], finding.row)">{{
            finding.message
          }}</router-link>
          <template v-else>{{ finding.message }}</template>
          <span class="secondary small reason"
            >{{ finding.acceptance!.reason }} ({{ finding.acceptance!.person }},
            {{ moment(finding.acceptance!.at) }})</span
          >
        </span>
      </div>
    </template>
    <template v-if="notes.length">
      <h3>{{ plural(notes.length, 'note') }}, alternatives not taken among them</h3>
      <div v-for="finding in notes" :key="finding.id + finding.row" class="said">
        <SeverityMark severity="note" />
        <span>{{ finding.message }}</span>
      </div>
    </template>
    <template v-if="store.remarks.value.length">
      <h3>Remarks</h3>
      <p v-for="remark in store.remarks.value" :key="remark.at + remark.line" class="said">
        <span
          >{{ remark.words
          }}<span class="secondary small reason"
            >{{ remark.person }}, {{ remark.settledBy ? `resolved by ${remark.settledBy}` : 'open' }}</span
          ></span
        >
      </p>
    </template>
    <h3>Papers attached</h3>
    <p v-if="!documents.length" class="secondary">None.</p>
    <p v-for="document in documents" :key="document.id" class="said">
      <a :href="`/api/clients/${store.view.value.clientId}/documents/${document.id}`" target="_blank" rel="noopener">{{
        document.name
      }}</a>
      <span class="secondary small">{{ document.kind }}</span>
    </p>
  </section>
</template>

<style scoped>
h3 {
  font-size: 14px;
  margin: 14px 0 4px;
}
.said {
  display: flex;
  gap: 10px;
  margin: 0;
  padding: 3px 0;
  border-bottom: 1px solid var(--hairline);
}
.reason {
  display: block;
}
</style>
