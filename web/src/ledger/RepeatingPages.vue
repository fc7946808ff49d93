<script setup lang="ts">
import { computed, inject } from 'vue'
import type { ReturnStore, Section } from '../return/returnStore'
import LedgerGrid from './LedgerGrid.vue'
import LedgerLine from './LedgerLine.vue'
import RowActs from './RowActs.vue'
import RowBlocks from './RowBlocks.vue'

/** Pages that repeat, one for each business or property: their names beside each other, and the one that is turned to. */
const props = defineProps<{ section: Section }>()
const store = inject<ReturnStore>('return')!

const pages = computed(() => store.rowsOf(props.section.table!.key))
const shown = computed(() => store.pageShown(props.section))
const lineOf = (key: string) => store.lineOf(key)!
const applies = (key: string) => {
  const value = store.values.get(`${key}|${shown.value}`)
  return !value || value.open || value.kept
}
const parts = computed(() =>
  props.section.table!.parts.filter((part) => part.rows || part.lines.some((key) => applies(key))),
)
const troubled = (page: string) => {
  const places = new Set([page, ...store.within(props.section, page).flatMap((inner) => inner.rows)])
  return store.findings.value.some(
    (f) => !f.acceptance && f.severity === 'error' && !f.id.endsWith(':missing') && f.row && places.has(f.row),
  )
}

function onKey(event: KeyboardEvent) {
  if (!event.altKey || !shown.value || event.defaultPrevented) return
  const key = event.key.toLowerCase()
  if (key === 'i') store.addRow(props.section, shown.value)
  else if (key === 'y') store.duplicateRow(props.section, shown.value)
  else return
  event.preventDefault()
}
</script>

<template>
  <div class="pages" role="tablist" :aria-label="section.title">
    <button
      v-for="(page, index) in pages"
      :key="page"
      type="button"
      role="tab"
      class="page-tab"
      :aria-selected="page === shown"
      @click="store.turnTo(section, page)"
    >
      {{ index + 1 }}. {{ store.nameOfRow(section, page) }}
      <span v-if="troubled(page)" class="trouble" title="Errors on this page">!</span>
    </button>
    <button v-if="!store.locked" type="button" class="link add" @click="store.addRow(section)">
      Add {{ section.table!.rowLabel }}
    </button>
    <span v-if="!pages.length" class="faint small">None yet.</span>
  </div>
  <div
    v-if="shown"
    :key="shown"
    class="turned"
    role="tabpanel"
    :aria-label="store.nameOfRow(section, shown)"
    :data-row="shown"
    @keydown="onKey"
  >
    <div class="row-head">
      <strong>{{ store.nameOfRow(section, shown) }}</strong>
      <RowActs :section="section" :row="shown" :among="pages" />
    </div>
    <div v-for="part in parts" :key="part.title" class="part" role="group" :aria-label="part.title">
      <div class="part-head">
        <h3>{{ part.title }}</h3>
        <span class="faint small">{{ part.law }}</span>
      </div>
      <template v-if="part.rows">
        <LedgerGrid v-if="store.tableOf(part.rows).table!.grid" :section="store.tableOf(part.rows)" :page="shown" />
        <RowBlocks v-else :section="store.tableOf(part.rows)" :page="shown" />
      </template>
      <LedgerLine v-for="key in part.lines" :key="key" :line="lineOf(key)" :row="shown" />
    </div>
  </div>
</template>

<style scoped>
.pages {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  align-items: center;
  margin-top: 8px;
}
.page-tab {
  border: 1px solid var(--hairline);
  border-radius: 3px 3px 0 0;
  background: none;
  padding: 4px 12px;
  font: inherit;
  color: var(--secondary);
  cursor: pointer;
  min-height: 30px;
}
.page-tab[aria-selected='true'] {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
  background: var(--verdigris-wash);
}
.page-tab:hover {
  background: var(--verdigris-wash);
}
.trouble {
  color: var(--error);
  font-weight: 700;
  margin-left: 4px;
}
.add {
  margin-left: 8px;
}
.turned {
  border-left: 2px solid var(--verdigris);
  padding-left: 12px;
}
.row-head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  min-height: 34px;
}
.part {
  margin-top: 10px;
}
.part-head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  border-bottom: 1px solid var(--hairline);
}
h3 {
  font-size: 14px;
  font-weight: 600;
}
</style>
