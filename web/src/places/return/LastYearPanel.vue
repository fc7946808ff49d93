<script setup lang="ts">
import { computed, inject, onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, difference, periodOf } from '../../shared/format'
import StepsChart, { type Step } from '../../shared/StepsChart.vue'
import type { Line, ReturnStore, Section } from '../../return/returnStore'

/** This year beside last year, line by line, and how last year's balance became this year's. */
const store = inject<ReturnStore>('return')!
const { problem, act } = useAct()
/** Movements shown of one section's rows, the largest first. */
const MOST_SHOWN = 100
const threshold = ref('0')
const bridge = ref<Schemas['BridgeView'] | null>(null)
const rowsBefore = ref<[Section, Schemas['RowLastYearView'][]][]>([])
const lastYear = computed(() => store.view.value.lastYear)
const load = () =>
  act(async () => {
    if (!lastYear.value) return
    const path = { id: store.id }
    bridge.value = (await call(api.GET('/api/returns/{id}/bridge', { params: { path } }))) ?? null
    const tables = store.layout.forms.flatMap((f) => f.sections).filter((s) => s.table)
    rowsBefore.value = await Promise.all(
      tables.map(async (section): Promise<[Section, Schemas['RowLastYearView'][]]> => [
        section,
        await call(
          api.GET('/api/returns/{id}/last-year/{section}', {
            params: { path: { ...path, section: section.table!.key } },
          }),
        ),
      ]),
    )
  })
onMounted(load)
watch(() => store.revision.value, load)

function movementOf(line: Line, before: string, now: string) {
  const movement = difference(now, before)
  const share = Number(before) === 0 ? '' : `${Math.round((Number(movement) / Math.abs(Number(before))) * 100)}%`
  return { line, before, now, movement, share }
}
const counts = (moved: { movement: string }) =>
  moved.movement !== '0' && Math.abs(Number(moved.movement)) >= Number(threshold.value || 0)

const movements = computed(() => {
  const last = lastYear.value
  if (!last) return []
  return store.layout.forms
    .flatMap((form) => form.sections.flatMap((section) => section.lines))
    .filter((line) => line.kind === 'money' && last.values[line.key] !== undefined)
    .map((line) => movementOf(line, last.values[line.key] ?? '0', store.valueOf(line.key, null)?.value ?? '0'))
    .filter(counts)
})

/** What moved in rows, section by section: each row beside the one it goes on from, new ones, and those that are gone. */
const rowMovements = computed(() =>
  rowsBefore.value
    .map(([section, rows]) => {
      const moneys = section.lines.filter((line) => line.kind === 'money')
      const all = rows.map((r) => ({
        row: r.row,
        name: `${r.name}${r.isNew ? ', new' : r.row ? '' : ', gone'}`,
        lines: moneys
          .map((line) =>
            movementOf(line, r.before[line.key] ?? '0', (r.row && store.valueOf(line.key, r.row)?.value) || '0'),
          )
          .filter(counts),
      }))
      const size = (m: { movement: string }) => Math.abs(Number(m.movement))
      const sizes = all.flatMap((r) => r.lines.map(size)).sort((a, b) => b - a)
      const least = sizes[MOST_SHOWN] ?? 0
      const shown = all.map((r) => ({ ...r, lines: r.lines.filter((m) => size(m) > least || !least) }))
      return { section, count: sizes.length, least, rows: shown.filter((r) => r.lines.length) }
    })
    .filter((s) => s.rows.length),
)

const steps = computed<Step[]>(() => {
  if (!bridge.value) return []
  const { fromYear, from, to, steps } = bridge.value
  return [
    { label: fromYear, amount: from, whole: true },
    ...steps.map((step) => ({
      label: step.cause,
      amount: step.movement,
      whole: false,
      to: step.form ? store.placeOf(store.pageOf(store.layout.forms.find((f) => f.key === step.form)!).key) : undefined,
    })),
    { label: periodOf(store.view.value), amount: to, whole: true },
  ]
})
</script>

<template>
  <section aria-label="This year beside last year">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="!lastYear" class="secondary none">There is no return for last year.</p>
    <template v-else>
      <template v-if="bridge">
        <div class="rule-head"><h2>From last year's balance to this year's</h2></div>
        <StepsChart :steps="steps" />
      </template>
      <div class="rule-head lines-head">
        <h2>Line by line</h2>
        <label class="small secondary"
          >movements of at least
          <input v-model="threshold" inputmode="numeric" aria-label="Least movement shown" class="threshold"
        /></label>
      </div>
      <table class="plain">
        <thead>
          <tr>
            <th>Line</th>
            <th class="amount">{{ lastYear.year }}</th>
            <th class="amount">{{ store.view.value.year }}</th>
            <th class="amount">Movement</th>
            <th class="amount">Share</th>
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
            <td class="amount secondary">{{ row.share }}</td>
          </tr>
        </tbody>
        <tbody v-for="{ section, count, least, rows } in rowMovements" :key="section.key">
          <tr>
            <th colspan="5" class="of-rows">
              {{ section.title
              }}<span v-if="least" class="faint"
                >the largest of {{ count }} movements, above {{ amount(String(least)) }}</span
              >
            </th>
          </tr>
          <template v-for="row in rows" :key="row.row ?? row.name">
            <tr>
              <td colspan="5" class="row-name">{{ row.name }}</td>
            </tr>
            <tr v-for="of in row.lines" :key="of.line.key">
              <td class="of-row">
                <router-link v-if="row.row" :to="store.placeOfLine(of.line.key, row.row)">{{
                  of.line.label
                }}</router-link>
                <template v-else>{{ of.line.label }}</template>
              </td>
              <td class="amount secondary">{{ amount(of.before) }}</td>
              <td class="amount">{{ amount(of.now) }}</td>
              <td class="amount">{{ amount(of.movement) }}</td>
              <td class="amount secondary">{{ of.share }}</td>
            </tr>
          </template>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.none {
  padding-top: 10px;
}
.lines-head {
  margin-top: 22px;
}
.of-rows {
  padding-top: 14px;
  text-align: left;
}
.row-name {
  font-weight: 600;
}
.of-row {
  padding-left: 14px;
}
.of-rows .faint {
  font-weight: 400;
  margin-left: 10px;
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
</style>
