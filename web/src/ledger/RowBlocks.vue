<script setup lang="ts">
import { computed, inject } from 'vue'
import type { ReturnStore, Section } from '../return/returnStore'
import LedgerLine from './LedgerLine.vue'
import RowActs from './RowActs.vue'

/** The rows of a repeating section, one block of lines each; within a page, those that belong to it. */
const props = defineProps<{ section: Section; page?: string }>()
const store = inject<ReturnStore>('return')!

const of = computed(() => props.section.table!.ofPage)
const rows = computed(() =>
  store
    .rowsOf(props.section.table!.key)
    .filter((row) => !props.page || (of.value && store.said(of.value, row) === props.page)),
)
const lines = computed(() => props.section.lines.filter((line) => line.key !== of.value))

function onRowKey(event: KeyboardEvent, row: string) {
  if (!event.altKey) return
  const key = event.key.toLowerCase()
  if (key === 'i') store.addRow(props.section, row, true, props.page)
  else if (key === 'y') store.duplicateRow(props.section, row)
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div
    v-for="(row, index) in rows"
    :key="row"
    class="row-block"
    role="group"
    :aria-label="store.nameOfRow(section, row)"
    :data-row="row"
    @keydown="onRowKey($event, row)"
  >
    <div class="row-head">
      <strong>{{ index + 1 }}. {{ store.nameOfRow(section, row) }}</strong>
      <RowActs :section="section" :row="row" :among="rows" />
    </div>
    <LedgerLine v-for="line in lines" :key="line.key" :line="line" :row="row" />
  </div>
  <div class="add-row">
    <button v-if="!store.locked" type="button" class="link" @click="store.addRow(section, undefined, true, page)">
      Add {{ section.table!.rowLabel }}
    </button>
    <span v-if="!rows.length" class="faint small">None yet.</span>
  </div>
</template>

<style scoped>
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
.add-row {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 8px 0 0;
}
</style>
