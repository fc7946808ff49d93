<script setup lang="ts">
import { computed, inject, provide } from 'vue'
import SeverityMark from '../shared/SeverityMark.vue'
import { placeKey, type Line, type ReturnStore, type Section } from '../return/returnStore'
import EntryField from './EntryField.vue'
import { listedLines } from './listedLines'

/**
 * Rows of a repeating section of which each code of a choice has a line to be filled: typing beside a code adds its row, clearing what was typed removes
 * it. Rows without a code stand below, to be given one.
 */
const props = defineProps<{ section: Section }>()
const store = inject<ReturnStore>('return')!

const kind = computed(() => props.section.lines.find((line) => line.key === props.section.table!.listedBy)!)
const value = computed(() => props.section.lines.find((line) => line !== kind.value && !line.computed)!)
const lines = computed(() =>
  listedLines(
    kind.value.choices ?? [],
    store.rowsOf(props.section.table!.key).map((row) => ({ row, code: store.said(kind.value.key, row) })),
  ),
)
const findingOf = (row: string) =>
  store.findings.value.find(
    (f) => !f.acceptance && f.severity !== 'note' && f.row === row && f.lines[0] === value.value.key,
  )
const messageOf = (line: Line, row: string) => store.drafts.get(placeKey(line.key, row))?.message

/** What is typed beside a code: into its row, into a row that is added for it, or, cleared, its row away. */
function set(line: string, row: string, typed: string, seen: number) {
  const listed = lines.value.find((l) => l.row === row)!
  if (!listed.present) {
    if (typed.trim())
      store.addListed(props.section, row, [
        [kind.value.key, listed.code],
        [line, typed],
      ])
  } else if (!typed.trim() && line === value.value.key) store.removeRow(props.section, row)
  else store.set(line, row, typed, seen)
}
const filling: ReturnStore = Object.create(store, { set: { value: set } })
provide('return', filling)
</script>

<template>
  <div
    v-for="line in lines"
    :key="line.row"
    class="listed"
    :class="{ focused: store.focus.value?.row === line.row, unnamed: !line.code }"
    :data-row="line.row"
  >
    <span class="label">
      <template v-if="line.code">{{ line.label }}</template>
      <EntryField v-else :line="kind" :row="line.row" />
      <SeverityMark v-if="findingOf(line.row)" :severity="findingOf(line.row)!.severity" class="mark" />
    </span>
    <EntryField :line="{ ...value, label: line.label || value.label }" :row="line.row" />
    <p v-if="messageOf(value, line.row)" :id="`message-${placeKey(value.key, line.row)}`" class="message" role="alert">
      {{ messageOf(value, line.row) }}
    </p>
  </div>
</template>

<style scoped>
.listed {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 132px;
  align-items: center;
  min-height: 30px;
  padding-left: 42px;
  border-bottom: 1px solid var(--hairline);
}
.listed.focused {
  background: var(--verdigris-wash);
}
.unnamed {
  grid-template-columns: 252px 132px;
  justify-content: space-between;
}
.mark {
  margin-left: 8px;
}
.message {
  grid-column: 1 / -1;
  margin: 0;
  padding: 4px 8px 6px;
  font-size: 13px;
  color: var(--brick);
}
</style>
