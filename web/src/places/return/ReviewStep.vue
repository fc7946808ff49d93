<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { api, call } from '../../api/client'
import { amount, difference, plural } from '../../shared/format'
import SeverityMark from '../../shared/SeverityMark.vue'
import AcceptFinding from './AcceptFinding.vue'
import AmendedLines from './AmendedLines.vue'
import type { Finding, ReturnStore } from './returnStore'

const store = inject<ReturnStore>('return')!
const copy = ref(false)
const threshold = ref('0')

const open = computed(() => store.findings.value.filter((f) => !f.acceptance))
const accepted = computed(() => store.findings.value.filter((f) => f.acceptance))
const summary = computed(() =>
  [
    plural(store.errors.value, 'error'),
    plural(store.warnings.value, 'warning'),
    plural(open.value.filter((f) => f.severity === 'note').length, 'note'),
  ].join(', '),
)
const lastYear = computed(() => store.view.value.lastYear)
const movements = computed(() => {
  const last = lastYear.value
  if (!last) return []
  return store.layout.forms
    .flatMap((form) => form.sections.flatMap((section) => section.lines))
    .filter((line) => line.kind === 'money' && last.values[line.key] !== undefined)
    .map((line) => {
      const before = last.values[line.key] ?? '0'
      const now = store.valueOf(line.key, null)?.value ?? '0'
      return { line, before, now, movement: difference(now, before) }
    })
    .filter((row) => row.movement !== '0' && Math.abs(Number(row.movement)) >= Number(threshold.value || 0))
})

function where(finding: Finding): string {
  const line = store.lineOf(finding.lines[0] ?? '')
  const form = store.layout.forms.find((f) => f.key === finding.form)
  return [form?.title, line ? `${line.number} ${line.label}` : ''].filter(Boolean).join(', ')
}

async function reopen(finding: Finding) {
  store.findings.value = await call(
    api.POST('/api/returns/{id}/findings/reopen', {
      params: { path: { id: store.id } },
      body: { finding: finding.id, row: finding.row },
    }),
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
            <AcceptFinding v-if="finding.severity === 'warning'" :finding="finding" />
          </p>
        </div>
      </div>
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
      <div class="rule-head">
        <h2>This year beside last year</h2>
        <label class="small secondary"
          >movements of at least
          <input v-model="threshold" inputmode="numeric" aria-label="Least movement shown" class="threshold"
        /></label>
      </div>
      <p v-if="!lastYear" class="secondary none">There is no return for last year.</p>
      <table v-else class="plain">
        <thead>
          <tr>
            <th>Line</th>
            <th class="amount">{{ lastYear.year }}</th>
            <th class="amount">{{ store.view.value.year }}</th>
            <th class="amount">Movement</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in movements" :key="row.line.key">
            <td>
              <router-link :to="store.placeOfLine(row.line.key)">{{ row.line.label }}</router-link>
            </td>
            <td class="amount secondary">{{ amount(row.before) }}</td>
            <td class="amount">{{ amount(row.now) }}</td>
            <td class="amount">{{ amount(row.movement) }}</td>
          </tr>
        </tbody>
      </table>
      <div class="rule-head copy-head">
        <h2>Printed copy</h2>
        <span>
          <button class="link" @click="copy = !copy">{{ copy ? 'Hide' : 'Show here' }}</button>
          <a :href="`/api/returns/${store.id}/printed-copy.pdf`" target="_blank" rel="noopener">Open</a>
        </span>
      </div>
      <iframe v-if="copy" :src="`/api/returns/${store.id}/printed-copy.pdf`" title="Printed copy"></iframe>
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
.accepted-head,
.copy-head {
  margin-top: 26px;
}
.copy-head span {
  display: inline-flex;
  gap: 16px;
}
.threshold {
  width: 76px;
  border: 0;
  border-bottom: 1px solid var(--faint);
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: right;
}
iframe {
  width: 100%;
  height: 480px;
  border: 1px solid var(--hairline);
  margin-top: 10px;
}
</style>
