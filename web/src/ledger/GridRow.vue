<script setup lang="ts">
import { computed, inject } from 'vue'
import SeverityMark from '../shared/SeverityMark.vue'
import { placeKey, type Finding, type Line, type ReturnStore } from '../return/returnStore'
import { amount } from '../shared/format'
import { chooses } from './gridBlock'
import { idOf, isNumeric, mayOverflow, print, proposalIn } from './gridCells'

/** One row of a grid; it is drawn again only when something of its own changes. */
const props = defineProps<{
  row: string
  number: number
  columns: Line[]
  template: string
  findings: Finding[] | undefined
  /** The active column, or -1. */
  at: number
  /** Chosen columns, from and to, or -1. */
  left: number
  right: number
  /** What is being typed into the active cell, or null. */
  editing: string | null
}>()
defineEmits<{
  pick: [column: number, extend: boolean]
  begin: []
  typed: [text: string]
  leave: []
  editorKey: [event: KeyboardEvent]
}>()
const store = inject<ReturnStore>('return')!
const worst = computed(() => props.findings?.[0]?.severity)

function marks(line: Line, column: number): Record<string, boolean> {
  const key = placeKey(line.key, props.row)
  const finding = props.findings?.find((f) => f.lines[0] === line.key)
  return {
    numeric: isNumeric(line),
    cut: mayOverflow(print(store, props.row, line), line),
    computed: line.computed,
    closed: !store.values.get(key)?.open,
    first: column === 0,
    proposed: !!proposalIn(store, props.row, line),
    refused: store.drafts.get(key)?.state === 'refused',
    error: finding?.severity === 'error',
    warning: finding?.severity === 'warning',
    chosen: column >= props.left && column <= props.right,
    at: column === props.at,
  }
}
</script>

<template>
  <div class="row" role="row" :aria-rowindex="number + 1" :style="{ gridTemplateColumns: template }">
    <span class="mark faint" role="rowheader"><SeverityMark v-if="worst" :severity="worst" />{{ number }}</span>
    <span
      v-for="(line, column) in columns"
      :id="idOf(row, line)"
      :key="line.key"
      role="gridcell"
      class="cell"
      :class="marks(line, column)"
      :data-place="placeKey(line.key, row)"
      @mousedown.prevent="$emit('pick', column, $event.shiftKey)"
      @dblclick="$emit('begin')"
    >
      <input
        v-if="editing !== null && column === at"
        :value="editing"
        data-editor
        class="editor"
        :class="{ numeric: isNumeric(line) }"
        :aria-label="line.label"
        :role="chooses(line) ? 'combobox' : undefined"
        :aria-expanded="chooses(line) ? true : undefined"
        :aria-controls="chooses(line) ? 'grid-codes' : undefined"
        autocomplete="off"
        spellcheck="false"
        @input="$emit('typed', ($event.target as HTMLInputElement).value)"
        @keydown="$emit('editorKey', $event)"
        @mousedown.stop
        @blur="$emit('leave')"
      />
      <template v-else>{{ amount(proposalIn(store, row, line)) || print(store, row, line) }}</template>
    </span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-auto-rows: 28px;
  height: 28px;
  width: var(--across);
  min-width: 100%;
  contain: strict;
}
.mark {
  background: var(--paper);
  padding: 4px 6px;
  font-size: 12px;
  text-align: right;
  border-right: 1px solid var(--hairline);
  white-space: nowrap;
}
.cell {
  box-sizing: border-box;
  padding: 3px 7px;
  border-bottom: 1px solid var(--hairline);
  white-space: nowrap;
  cursor: cell;
  user-select: none;
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
}
.mark,
.first {
  position: sticky;
  left: 0;
  z-index: 1;
}
.first {
  left: 44px;
  background: var(--page);
  border-right: 1px solid var(--hairline);
}
.proposed {
  color: var(--secondary);
  font-style: italic;
}
.numeric {
  text-align: right;
}
.computed {
  color: var(--secondary);
  background: var(--paper);
}
.closed {
  background: var(--paper);
}
.cell.warning {
  background: var(--ochre-wash);
}
.cell.error,
.cell.refused {
  background: var(--brick-wash);
}
.cell.chosen {
  background: var(--verdigris-wash);
}
.cell.at {
  outline: 2px solid var(--verdigris);
  outline-offset: -2px;
}
.editor {
  width: 100%;
  height: 20px;
  border: 0;
  outline: 0;
  background: var(--page);
  color: var(--ink);
  font: inherit;
  padding: 0;
}
</style>
