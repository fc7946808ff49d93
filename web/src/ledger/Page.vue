<script setup lang="ts">
import { computed, inject } from 'vue'
import { useRouter } from 'vue-router'
import StepsChart, { type Step } from '../shared/StepsChart.vue'
import type { Form, Line, ReturnStore, Section } from '../return/returnStore'
import AgreementPanel from './AgreementPanel.vue'
import LedgerGrid from './LedgerGrid.vue'
import LedgerLine from './LedgerLine.vue'
import ListedRows from './ListedRows.vue'
import RepeatingPages from './RepeatingPages.vue'
import RowBlocks from './RowBlocks.vue'

const props = defineProps<{ form: Form }>()
const store = inject<ReturnStore>('return')!

const lastYear = computed(() => store.view.value.lastYear)
const beside = computed(() => store.besideOf(props.form))
const isOpen = (section: Section | undefined) => !!section && store.openSections.value.has(section.key)
const hasLines = (section: Section) =>
  !!section.table ||
  section.lines.some((line) => store.values.get(`${line.key}|`)?.open || store.values.get(`${line.key}|`)?.kept)

/** What is drawn under one heading: a section, with the same section of the parallel column; repeating sections stand one under the other. */
interface Drawn {
  section: Section
  parallel?: Section
  title: string
}
const drawn = computed<Drawn[]>(() =>
  props.form.sections.flatMap((section, index): Drawn[] => {
    const other = beside.value?.sections[index]
    if (section.table?.ofPage) return []
    if (section.table)
      return [
        ...(isOpen(section) ? [{ section, title: section.title }] : []),
        ...(other && isOpen(other)
          ? [{ section: other, title: `${section.title}, ${beside.value!.column!.toLowerCase()}` }]
          : []),
      ]
    const shown = (isOpen(section) && hasLines(section)) || (other && isOpen(other) && hasLines(other))
    return shown ? [{ section, parallel: other, title: section.title }] : []
  }),
)

/** The question of Scope that brought the page here; it can be answered otherwise from here. */
const question = computed(() => (props.form.openedBy ? store.lineOf(props.form.openedBy) : undefined))
const router = useRouter()
/** Leaves the page out by answering its question no; what was entered is kept. */
function leaveOut(key: string) {
  store.set(key, null, 'no', store.revision.value)
  void router.push(store.placeOfLine(key))
}
/** How one of the page's lines comes about from another, each step with its line; steps of nothing are left out. */
const explained = computed<Step[]>(() => {
  const of = props.form.explained
  if (!of) return []
  const step = (key: string, whole: boolean): Step => ({
    label: store.lineOf(key)!.label,
    amount: store.valueOf(key, null)?.value ?? '0',
    whole,
    to: store.placeOfLine(key),
  })
  return [
    step(of.from, true),
    ...of.steps.map((key) => step(key, false)).filter((s) => Number(s.amount) !== 0),
    step(of.to, true),
  ]
})
const hasGrid = computed(() => drawn.value.some((d) => d.section.table?.grid))
function before(line: Line): string | null {
  return lastYear.value?.values[line.key] ?? null
}
</script>

<template>
  <article class="page" :class="{ broad: beside, full: hasGrid }" :aria-label="form.title">
    <header>
      <h1>{{ form.title }}</h1>
      <p class="secondary">
        {{ form.about }}
        <span v-if="!hasGrid" class="small out"
          ><a :href="`/api/returns/${store.id}/forms/${form.key}/page.pdf`" target="_blank" rel="noopener">Print</a>
          <a :href="`/api/returns/${store.id}/forms/${form.key}/page.csv`" download>CSV</a></span
        >
      </p>
      <p v-if="question" class="small faint why">
        Here because <router-link :to="store.placeOfLine(question.key)">‘{{ question.label }}’</router-link> is answered
        yes.
        <button v-if="!store.locked" class="link small" @click="leaveOut(question.key)">Leave this page out</button>
      </p>
    </header>
    <AgreementPanel v-if="form.key === store.layout.agreementForm" />
    <StepsChart v-if="explained.length" :steps="explained" class="explained" aria-label="What makes the difference" />
    <template v-for="{ section, parallel, title } in drawn" :key="section.key">
      <section class="section" :aria-label="title">
        <div class="rule-head">
          <h2>{{ title }}</h2>
          <span class="head-right">
            <span class="faint small">{{ section.law }}</span>
            <span v-if="parallel" class="secondary small columns"
              ><span>{{ beside!.firstColumn }}</span
              ><span>{{ beside!.column }}</span></span
            >
            <span v-else-if="!section.table && lastYear" class="faint small years"
              ><span>{{ lastYear.year }}</span
              ><span>{{ store.view.value.year }}, {{ store.view.value.currency }}</span></span
            >
          </span>
        </div>
        <template v-if="!section.table">
          <LedgerLine
            v-for="(line, index) in section.lines"
            :key="line.key"
            :line="line"
            :beside="parallel?.lines[index]"
            :row="null"
            :last-year="before(line)"
          />
        </template>
        <ListedRows v-else-if="section.table.listedBy" :section="section" />
        <LedgerGrid v-else-if="section.table.grid" :section="section" />
        <RepeatingPages v-else-if="section.table.parts.length" :section="section" />
        <RowBlocks v-else :section="section" />
      </section>
    </template>
  </article>
</template>

<style scoped>
.page {
  max-width: 760px;
  padding: 18px 30px 60px;
}
.page.broad {
  max-width: 860px;
}
.page.full {
  max-width: none;
}
header p {
  margin: 4px 0 0;
}
.out a {
  margin-left: 10px;
}
.explained {
  --step-label: 270px;
  margin-top: 16px;
}
.columns {
  display: inline-flex;
  gap: 6px;
  font-weight: 600;
}
.columns span {
  width: 162px;
  text-align: right;
  padding-right: 8px;
}
.section {
  margin-top: 20px;
  content-visibility: auto;
  contain-intrinsic-size: auto 300px;
}
.head-right {
  display: inline-flex;
  gap: 18px;
}
.years {
  display: inline-flex;
}
.years span:first-child {
  text-align: right;
}
.years span:last-child {
  width: 194px;
  text-align: right;
  padding-right: 8px;
}
@container (max-width: 580px) {
  .years span:first-child {
    display: none;
  }
}
</style>
