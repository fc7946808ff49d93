<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiClose, mdiContentCopy } from '@mdi/js'
import { computed, inject } from 'vue'
import type { Form, Line, ReturnStore, Section } from '../places/return/returnStore'
import LedgerLine from './LedgerLine.vue'

const props = defineProps<{ form: Form }>()
const store = inject<ReturnStore>('return')!

const lastYear = computed(() => store.view.value.lastYear)
const open = computed(() => props.form.sections.filter((section) => store.openSections.value.has(section.position)))
const hasLines = (section: Section) =>
  section.table !== null ||
  section.lines.some((line) => store.values.get(`${line.key}|`)?.open || store.values.get(`${line.key}|`)?.kept)

function before(line: Line): string | null {
  return lastYear.value?.values[line.key] ?? null
}

function onRowKey(event: KeyboardEvent, section: Section, row: string) {
  if (!event.altKey) return
  const key = event.key.toLowerCase()
  if (key === 'i') store.addRow(section, row)
  else if (key === 'y') store.duplicateRow(section, row)
  else return
  event.preventDefault()
}
</script>

<template>
  <article class="page" :aria-label="form.title">
    <header>
      <h1>{{ form.title }}</h1>
      <p class="secondary">{{ form.about }}</p>
    </header>
    <template v-for="section in open" :key="section.position">
      <section v-if="hasLines(section)" class="section" :aria-label="section.title">
        <div class="rule-head">
          <h2>{{ section.title }}</h2>
          <span class="head-right">
            <span class="faint small">{{ section.law }}</span>
            <span v-if="!section.table && lastYear" class="faint small years"
              ><span>{{ lastYear.year }}</span
              ><span>{{ store.view.value.year }}, {{ store.view.value.currency }}</span></span
            >
          </span>
        </div>
        <template v-if="!section.table">
          <LedgerLine
            v-for="line in section.lines"
            :key="line.key"
            :line="line"
            :row="null"
            :last-year="before(line)"
          />
        </template>
        <template v-else>
          <div
            v-for="(row, index) in store.rowsOf(section.table.key)"
            :key="row"
            class="row-block"
            role="group"
            :aria-label="store.nameOfRow(section, row)"
            :data-row="row"
            @keydown="onRowKey($event, section, row)"
          >
            <div class="row-head">
              <strong>{{ index + 1 }}. {{ store.nameOfRow(section, row) }}</strong>
              <span v-if="!store.locked" class="row-acts">
                <button
                  type="button"
                  title="Move up"
                  aria-label="Move up"
                  :disabled="index === 0"
                  @click="store.moveRow(section, row, -1)"
                >
                  <v-icon :icon="mdiArrowUp" size="15" />
                </button>
                <button
                  type="button"
                  title="Move down"
                  aria-label="Move down"
                  :disabled="index === store.rowsOf(section.table.key).length - 1"
                  @click="store.moveRow(section, row, 1)"
                >
                  <v-icon :icon="mdiArrowDown" size="15" />
                </button>
                <button
                  type="button"
                  title="Duplicate (Alt+Y)"
                  aria-label="Duplicate"
                  @click="store.duplicateRow(section, row)"
                >
                  <v-icon :icon="mdiContentCopy" size="14" />
                </button>
                <button
                  type="button"
                  title="Remove; can be undone"
                  aria-label="Remove"
                  @click="store.removeRow(section, row)"
                >
                  <v-icon :icon="mdiClose" size="16" />
                </button>
              </span>
            </div>
            <LedgerLine v-for="line in section.lines" :key="line.key" :line="line" :row="row" />
          </div>
          <div class="add-row">
            <button v-if="!store.locked" type="button" class="link" @click="store.addRow(section)">
              Add {{ section.table.rowLabel }}
            </button>
            <span v-if="!store.rowsOf(section.table.key).length" class="faint small">None so far.</span>
          </div>
        </template>
      </section>
    </template>
  </article>
</template>

<style scoped>
.page {
  max-width: 760px;
  padding: 18px 30px 60px;
}
header p {
  margin: 4px 0 0;
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
.row-block {
  margin-top: 8px;
  border-left: 2px solid var(--hairline);
  padding-left: 10px;
}
.row-block:focus-within {
  border-color: var(--verdigris);
}
.row-head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 30px;
}
.row-acts {
  display: inline-flex;
  gap: 2px;
}
.row-acts button {
  width: 26px;
  height: 26px;
  border: 0;
  background: none;
  color: var(--secondary);
  cursor: pointer;
  border-radius: 3px;
}
.row-acts button:hover:not(:disabled) {
  background: var(--verdigris-wash);
}
.row-acts button:disabled {
  opacity: 0.35;
  cursor: default;
}
.add-row {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 8px 0 0;
}
</style>
