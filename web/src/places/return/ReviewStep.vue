<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, call } from '../../api/client'
import { moment, plural } from '../../shared/format'
import SeverityMark from '../../shared/SeverityMark.vue'
import AcceptFinding from './AcceptFinding.vue'
import AlternativesPanel from './AlternativesPanel.vue'
import AmendedLines from './AmendedLines.vue'
import EntriesPanel from './EntriesPanel.vue'
import LastYearPanel from './LastYearPanel.vue'
import type { Finding, ReturnStore } from '../../return/returnStore'

const store = inject<ReturnStore>('return')!
const route = useRoute()

const open = computed(() => store.findings.value.filter((f) => !f.acceptance))
const accepted = computed(() => store.findings.value.filter((f) => f.acceptance))
const summary = computed(() =>
  [
    plural(store.errors.value, 'error'),
    plural(store.warnings.value, 'warning'),
    plural(open.value.filter((f) => f.severity === 'note').length, 'note'),
  ].join(', '),
)
const views = [
  ['last-year', 'Last year'],
  ['alternatives', 'Alternatives'],
  ['copy', 'Printed copy'],
  ['workings', 'Workings'],
  ['entries', 'Entries'],
] as const
type View = (typeof views)[number][0]
const view = ref<View>(
  (route.query.view as View | undefined) ?? (store.view.value.lastYear ? 'last-year' : 'alternatives'),
)

/** The latest open remark of every line that has one. */
const threads = computed(() => [...new Map(store.openRemarks.value.map((r) => [`${r.line}|${r.row}`, r])).values()])
const nameOf = (key: string) => {
  const line = store.lineOf(key)
  return line ? `${line.number} ${line.label}` : key
}
const tied = (finding: Finding) => !!store.ties.value.get(finding.lines[0]!)?.sources.length

function where(finding: Finding): string {
  const line = store.lineOf(finding.lines[0] ?? '')
  const form = store.layout.forms.find((f) => f.key === finding.form)
  return [form?.title, line ? `${line.number} ${line.label}` : ''].filter(Boolean).join(', ')
}

async function reopen(finding: Finding) {
  store.takeFindings(
    await call(
      api.POST('/api/returns/{id}/findings/reopen', {
        params: { path: { id: store.id } },
        body: { finding: finding.id, row: finding.row },
      }),
    ),
  )
}
</script>

<template>
  <div class="review">
    <section class="scroll left" aria-label="Findings">
      <h1>Review</h1>
      <div class="rule-head">
        <h2>Findings</h2>
        <span class="small secondary">{{ summary }} <kbd>Alt J</kbd> next</span>
      </div>
      <p v-if="!open.length" class="secondary none">Nothing is left to correct or decide.</p>
      <div v-for="finding in open" :key="finding.id + finding.row" class="finding" :data-finding="finding.id">
        <SeverityMark :severity="finding.severity" word />
        <div>
          <p>{{ finding.message }}</p>
          <p class="small faint">{{ where(finding) }}</p>
          <p class="acts">
            <router-link v-if="finding.lines.length" :to="store.placeOfLine(finding.lines[0]!, finding.row)"
              >Go to the line</router-link
            >
            <button
              v-if="finding.id.endsWith(':tie') && !store.locked && tied(finding)"
              class="link"
              @click="store.takeTied(finding.lines[0]!)"
            >
              Take what the source says
            </button>
            <router-link
              v-if="finding.id.endsWith(':alternative')"
              to="?view=alternatives"
              @click="view = 'alternatives'"
              >Compare</router-link
            >
            <AcceptFinding v-if="finding.severity === 'warning'" :finding="finding" />
          </p>
        </div>
      </div>
      <template v-if="threads.length">
        <div class="rule-head accepted-head">
          <h2>Remarks</h2>
          <span class="small secondary">{{ plural(threads.length, 'line') }} with open remarks</span>
        </div>
        <div v-for="thread in threads" :key="thread.line + thread.row" class="finding">
          <span class="secondary">remark</span>
          <div>
            <p>{{ thread.words }}</p>
            <p class="small faint">{{ thread.person }}, {{ moment(thread.at) }}, on {{ nameOf(thread.line) }}</p>
            <router-link :to="store.placeOfLine(thread.line, thread.row)">Go to the line</router-link>
          </div>
        </div>
      </template>
      <template v-if="accepted.length">
        <div class="rule-head accepted-head"><h2>Accepted</h2></div>
        <div v-for="finding in accepted" :key="finding.id + finding.row" class="finding">
          <span class="secondary">accepted</span>
          <div>
            <p>{{ finding.message }}</p>
            <p class="small faint">{{ finding.acceptance!.person }}: {{ finding.acceptance!.reason }}</p>
            <button v-if="!store.locked" class="link" @click="reopen(finding)">Reopen</button>
          </div>
        </div>
      </template>
    </section>
    <section class="scroll right" aria-label="Comparison and printed copy">
      <AmendedLines v-if="store.view.value.kind === 'amended'" />
      <div class="tabs" role="tablist" aria-label="Compare and copy">
        <button
          v-for="[key, label] in views"
          :key="key"
          role="tab"
          :aria-selected="view === key"
          :class="{ at: view === key }"
          @click="view = key"
        >
          {{ label }}
        </button>
      </div>
      <LastYearPanel v-if="view === 'last-year'" />
      <AlternativesPanel v-else-if="view === 'alternatives'" />
      <template v-else-if="view === 'copy'">
        <p>
          <a :href="`/api/returns/${store.id}/printed-copy.pdf`" target="_blank" rel="noopener">Open in a new tab</a>
        </p>
        <iframe :src="`/api/returns/${store.id}/printed-copy.pdf`" title="Printed copy"></iframe>
      </template>
      <EntriesPanel v-else-if="view === 'entries'" />
      <template v-else>
        <p>
          The whole return as a workbook with live formulas: one sheet for each form, the rate tables as ranges, the law
          beside every line. Change an entry there and it computes anew, to the same cents.
        </p>
        <p>
          <a :href="`/api/returns/${store.id}/workings.xlsx`" download>Workings, XLSX</a>
        </p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.review {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 560px);
  min-height: 0;
}
.left,
.right {
  padding: 18px 26px 40px;
}
.left {
  background: var(--page);
}
.right {
  border-left: 1px solid var(--hairline);
}
h1 {
  margin-bottom: 10px;
}
.finding {
  display: grid;
  grid-template-columns: 88px minmax(0, 1fr);
  align-items: start;
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
}
.finding p {
  margin: 0;
}
.acts {
  display: flex;
  gap: 20px;
  padding-top: 3px;
}
.none {
  padding-top: 10px;
}
.accepted-head {
  margin-top: 26px;
}
.tabs {
  display: flex;
  gap: 18px;
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 14px;
}
.tabs button {
  border: 0;
  background: none;
  font: inherit;
  padding: 6px 0;
  color: var(--secondary);
  border-bottom: 2px solid transparent;
  cursor: pointer;
}
.tabs .at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
iframe {
  width: 100%;
  height: 560px;
  border: 1px solid var(--hairline);
  margin-top: 10px;
}
</style>
