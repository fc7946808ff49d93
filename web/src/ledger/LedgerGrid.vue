<script setup lang="ts">
import { computed, inject, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { amount, fromCents, plural, toCents, typedAs } from '../shared/format'
import { placeKey, type Finding, type Line, type ReturnStore, type Section } from '../return/returnStore'
import {
  blockOf,
  idOf,
  isNumeric as numeric,
  print,
  readBlock,
  visible,
  widthOf,
  writeBlock,
  type Cell,
} from './gridCells'
import GridFiles from './GridFiles.vue'
import GridRow from './GridRow.vue'
import GridSubtotals from './GridSubtotals.vue'

/** Many rows as a grid: one editor that goes from cell to cell, only the rows on screen are drawn. Within a page, those that belong to it. */
const props = defineProps<{ section: Section; page?: string }>()
const store = inject<ReturnStore>('return')!

const ROW = 28
const table = computed(() => props.section.table!)
const all = computed(() => {
  const rows = store.rowsOf(table.value.key)
  const of = table.value.ofPage
  return of && props.page ? rows.filter((row) => store.said(of, row) === props.page) : rows
})
/** The columns that apply in at least one row. */
const columns = computed(() =>
  props.section.lines.filter((line) => {
    const there = (row: string) => {
      const value = store.values.get(placeKey(line.key, row))
      return !value || value.open || value.kept
    }
    return line.key !== table.value.ofPage && (all.value.length ? all.value.some(there) : !line.conditional)
  }),
)
/** Within a page the few columns share its width, texts more of it than numbers. */
const template = computed(
  () =>
    `52px ${columns.value.map((c) => (props.page ? `minmax(0, ${numeric(c) ? 1 : 2}fr)` : `${widthOf(c)}px`)).join(' ')}`,
)
const across = computed(() => (props.page ? '100%' : `${columns.value.reduce((sum, c) => sum + widthOf(c), 52)}px`))

const words = ref('')
const onlyFound = ref(false)
const order = ref<{ column: string; down: boolean } | null>(null)
/** Findings by row; of a row on which nothing is new, the same list as before, so that the row is not drawn again. */
const found = computed((before?: Map<string, Finding[]>) => {
  const byRow = new Map<string, Finding[]>()
  for (const finding of store.findings.value)
    if (finding.table === table.value.key && finding.row && !finding.acceptance && finding.severity !== 'note')
      byRow.set(finding.row, [...(byRow.get(finding.row) ?? []), finding])
  for (const [row, list] of byRow) {
    const was = before?.get(row)
    if (was?.length === list.length && was.every((f, index) => f === list[index])) byRow.set(row, was)
  }
  return byRow
})
const text = (row: string, line: Line) => store.values.get(placeKey(line.key, row))?.value ?? ''
const typedOrText = (row: string, line: Line) => store.drafts.get(placeKey(line.key, row))?.typed ?? text(row, line)

/** The rows as shown: those that have the words looked for, ordered by the column chosen. The return keeps its own order. */
const rows = computed(() => {
  let shown = all.value
  const looked = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (looked.length)
    shown = shown.filter((row) => {
      const whole = columns.value.map((c) => print(store, row, c).toLowerCase()).join(' ')
      return looked.every((word) => whole.includes(word))
    })
  if (onlyFound.value) shown = shown.filter((row) => found.value.has(row))
  const by = order.value && columns.value.find((c) => c.key === order.value!.column)
  if (by) {
    const sign = order.value!.down ? -1 : 1
    const compare = numeric(by)
      ? (a: string, b: string) => Number(text(a, by) || 0) - Number(text(b, by) || 0)
      : (a: string, b: string) => text(a, by).localeCompare(text(b, by))
    shown = [...shown].sort((a, b) => sign * compare(a, b))
  }
  return shown
})

const scroller = ref<HTMLElement>()
const editorOf = () => scroller.value?.querySelector<HTMLInputElement>('[data-editor]')
const scrollTop = ref(0)
const height = ref(420)
const inSight = computed(() => visible(scrollTop.value, height.value, ROW, rows.value.length))
const drawn = computed(() => rows.value.slice(inSight.value.first, inSight.value.last))

const at = ref<Cell>({ row: 0, column: 0 })
const anchor = ref<Cell>({ row: 0, column: 0 })
const editing = ref<string | null>(null)
const focused = ref(false)
const block = computed(() => blockOf(anchor.value, at.value))
const several = computed(() => block.value.top !== block.value.bottom || block.value.left !== block.value.right)
let before = ''
let seen = 0

const lineAt = (cell: Cell) => columns.value[cell.column]!
const rowAt = (cell: Cell) => rows.value[cell.row]
const inBlock = (row: number) => row >= block.value.top && row <= block.value.bottom
const active = computed(() => (rowAt(at.value) ? idOf(rowAt(at.value)!, lineAt(at.value)) : undefined))

const told = computed(() => {
  const row = rowAt(at.value)
  if (!row) return []
  const draft = store.drafts.get(placeKey(lineAt(at.value).key, row))
  return [...(draft?.message ? [draft.message] : []), ...(found.value.get(row) ?? []).map((f) => f.message)]
})

/** Sum of the amounts chosen, exact to the cent. */
const chosen = computed(() => {
  let cents = 0n
  let count = 0
  for (let row = block.value.top; row <= block.value.bottom; row++)
    for (let column = block.value.left; column <= block.value.right; column++) {
      const line = columns.value[column]
      const id = rows.value[row]
      if (!line || !id || line.kind !== 'money') continue
      const value = text(id, line)
      if (!value) continue
      cents += toCents(value)
      count++
    }
  return count > 1 ? amount(fromCents(cents)) : ''
})

function go(row: number, column: number, extend = false) {
  at.value = {
    row: Math.max(0, Math.min(row, rows.value.length - 1)),
    column: Math.max(0, Math.min(column, columns.value.length - 1)),
  }
  if (!extend) anchor.value = at.value
  show()
  const id = rowAt(at.value)
  if (id) store.focus.value = { line: lineAt(at.value).key, row: id }
}

/** Brings the active cell into sight. */
function show() {
  const box = scroller.value
  if (!box) return
  const top = at.value.row * ROW
  if (top < box.scrollTop) box.scrollTop = top
  else if (top + ROW > box.scrollTop + box.clientHeight - ROW) box.scrollTop = top + 2 * ROW - box.clientHeight
  const left = 52 + columns.value.slice(0, at.value.column).reduce((sum, c) => sum + widthOf(c), 0)
  const width = widthOf(lineAt(at.value))
  if (left < box.scrollLeft + 52) box.scrollLeft = left - 52
  else if (left + width > box.scrollLeft + box.clientWidth) box.scrollLeft = left + width - box.clientWidth
  // What comes into sight is drawn with what changed, not once more when the browser tells of the scrolling.
  scrollTop.value = box.scrollTop
}

function begin(typed: string | null) {
  const row = rowAt(at.value)
  const line = lineAt(at.value)
  if (!row || line.computed || store.locked || !store.values.get(placeKey(line.key, row))?.open) return
  seen = store.revision.value
  before = store.drafts.get(placeKey(line.key, row))?.typed ?? store.said(line.key, row)
  editing.value = typed ?? before
  void nextTick(() => {
    const editor = editorOf()
    editor?.focus()
    if (typed === null) editor?.select()
    else editor?.setSelectionRange(typed.length, typed.length)
  })
}

/** The code a person means by what was typed into a choice: the code itself, or the beginning of one choice's label. */
function meant(line: Line, typed: string): string {
  if (line.kind !== 'choice' || !typed) return typed
  const small = typed.trim().toLowerCase()
  const exact = line.choices!.find((c) => c.code.toLowerCase() === small || c.label.toLowerCase() === small)
  const begun = line.choices!.filter((c) => c.label.toLowerCase().startsWith(small))
  return exact?.code ?? (begun.length === 1 ? begun[0]!.code : typed)
}

function pick(row: number, column: number, extend: boolean) {
  commit()
  scroller.value?.focus()
  go(row, column, extend)
}

function commit() {
  const typed = editing.value
  const row = rowAt(at.value)
  if (typed === null || !row) return
  editing.value = null
  const line = lineAt(at.value)
  if (typed !== before) store.set(line.key, row, meant(line, typed), seen)
}

function leave(rowsDown: number, columnsRight: number) {
  commit()
  scroller.value?.focus()
  go(at.value.row + rowsDown, at.value.column + columnsRight)
}

function onEditorKey(event: KeyboardEvent) {
  if (event.key === 'Enter') leave(event.shiftKey ? -1 : 1, 0)
  else if (event.key === 'Tab') leave(0, event.shiftKey ? -1 : 1)
  else if (event.key === 'Escape') {
    editing.value = null
    scroller.value?.focus()
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') leave(event.key === 'ArrowDown' ? 1 : -1, 0)
  else return
  event.preventDefault()
  event.stopPropagation()
}

const steps: Record<string, [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageDown: [12, 0],
  PageUp: [-12, 0],
}
function onKey(event: KeyboardEvent) {
  if (editing.value !== null) return
  const { row, column } = at.value
  const command = event.ctrlKey || event.metaKey
  const letter = event.key.toLowerCase()
  if (steps[event.key] && !event.altKey) go(row + steps[event.key]![0], column + steps[event.key]![1], event.shiftKey)
  else if (event.key === 'Home') go(command ? 0 : row, 0, event.shiftKey)
  else if (event.key === 'End') go(command ? rows.value.length - 1 : row, columns.value.length - 1, event.shiftKey)
  else if (event.key === 'Enter' || event.key === 'F2') begin(null)
  else if (event.key === 'Delete' || event.key === 'Backspace') clear()
  else if (event.shiftKey && event.key === ' ') {
    anchor.value = { row: block.value.top, column: 0 }
    at.value = { row: block.value.bottom, column: columns.value.length - 1 }
  } else if (command && letter === 'a') {
    anchor.value = { row: 0, column: 0 }
    at.value = { row: rows.value.length - 1, column: columns.value.length - 1 }
  } else if (command && letter === 'd') fillDown()
  else if (command && event.key === '-') removeRows()
  else if (event.altKey && letter === 'i') add(rowAt(at.value))
  else if (event.altKey && letter === 'y' && rowAt(at.value)) store.duplicateRow(props.section, rowAt(at.value)!)
  else if (event.key === 'Escape') anchor.value = at.value
  else if (command || event.altKey || event.key.length !== 1) return
  else if (lineAt(at.value).kind === 'answer') {
    if (letter === 'y' || letter === 'n') each((id, line) => [id, line, letter === 'y' ? 'yes' : 'no'])
  } else begin(event.key)
  event.preventDefault()
}

/** Sets every cell of the block that can be typed into, as one step that is undone at once. */
function each(change: (row: string, line: Line) => [string, Line, string] | null) {
  const cells: [string, Line, string][] = []
  for (let row = block.value.top; row <= block.value.bottom; row++)
    for (let column = block.value.left; column <= block.value.right; column++) {
      const line = columns.value[column]!
      const id = rows.value[row]
      const one = id && !line.computed ? change(id, line) : null
      if (one) cells.push(one)
    }
  if (!store.locked) store.setMany(cells)
}
const clear = () => each((row, line) => (typedOrText(row, line) ? [row, line, ''] : null))
function fillDown() {
  const first = rows.value[block.value.top]!
  each((row, line) => (row === first ? null : [row, line, store.said(line.key, first)]))
}
function removeRows() {
  if (store.locked) return
  store.removeRows(props.section, rows.value.slice(block.value.top, block.value.bottom + 1))
  void nextTick(() => go(block.value.top, at.value.column))
}
function add(after?: string) {
  if (store.locked) return
  words.value = ''
  onlyFound.value = false
  order.value = null
  store.addRow(props.section, after, false, props.page)
  void nextTick(() => {
    scroller.value?.focus()
    go(after ? all.value.indexOf(after) + 1 : all.value.length, 0)
  })
}

function onCopy(event: ClipboardEvent) {
  if (editing.value !== null) return
  const copied: string[][] = []
  for (let row = block.value.top; row <= block.value.bottom; row++)
    copied.push(
      columns.value
        .slice(block.value.left, block.value.right + 1)
        .map((c) => (numeric(c) ? typedAs(typedOrText(rows.value[row]!, c)) : typedOrText(rows.value[row]!, c))),
    )
  event.clipboardData?.setData('text/plain', writeBlock(copied))
  event.preventDefault()
}

/** Takes a block from a spreadsheet: from the active cell on, over the columns that can be typed into; missing rows are added. */
function onPaste(event: ClipboardEvent) {
  if (editing.value !== null || store.locked) return
  event.preventDefault()
  const pasted = readBlock(event.clipboardData?.getData('text/plain') ?? '')
  const into = columns.value.slice(block.value.left).filter((c) => !c.computed)
  store.pasteRows(
    props.section,
    rows.value.slice(block.value.top),
    pasted.map((cells) =>
      cells.slice(0, into.length).map((cell, index): [Line, string] => [into[index]!, meant(into[index]!, cell)]),
    ),
    props.page,
  )
}

function sortBy(line: Line) {
  const now = order.value
  order.value = now?.column !== line.key ? { column: line.key, down: false } : now.down ? null : { ...now, down: true }
}

/** A jump from elsewhere: from a finding, for example. */
watch(
  () => store.focus.value,
  (spot) => {
    if (!spot?.row || (focused.value && spot.row === rowAt(at.value) && spot.line === lineAt(at.value).key)) return
    if (!rows.value.includes(spot.row) && all.value.includes(spot.row)) {
      words.value = ''
      onlyFound.value = false
    }
    const row = rows.value.indexOf(spot.row)
    const column = columns.value.findIndex((c) => c.key === spot.line)
    if (row < 0 || column < 0) return
    commit()
    at.value = anchor.value = { row, column }
    void nextTick(() => {
      show()
      scroller.value?.focus()
    })
  },
  { immediate: true },
)
let resized: ResizeObserver | undefined
onMounted(() => {
  resized = new ResizeObserver(() => (height.value = scroller.value?.clientHeight ?? height.value))
  if (scroller.value) resized.observe(scroller.value)
})
onBeforeUnmount(() => resized?.disconnect())
</script>

<template>
  <div v-if="!page" class="bar">
    <label class="small secondary"
      >Show rows with <input v-model="words" type="search" class="words" :aria-label="`Find in ${section.title}`"
    /></label>
    <label class="small secondary"><input v-model="onlyFound" type="checkbox" /> only with findings</label>
    <span class="small secondary count" role="status"
      >{{ rows.length === all.length ? '' : `${rows.length} of ` }}{{ plural(all.length, table.rowLabel)
      }}{{ chosen ? `, selected: ${chosen}` : '' }}</span
    >
    <GridFiles :section="section" />
  </div>
  <div
    ref="scroller"
    class="grid scroll"
    role="grid"
    tabindex="0"
    data-grid
    :aria-label="section.title"
    :aria-rowcount="all.length + 1"
    :aria-colcount="columns.length + 1"
    :style="{ maxHeight: `${(rows.length + 3) * ROW}px`, '--across': across }"
    :aria-activedescendant="active"
    @scroll="scrollTop = scroller!.scrollTop"
    @focus="focused = true"
    @focusin="focused = true"
    @focusout="focused = false"
    @keydown="onKey"
    @copy="onCopy"
    @paste="onPaste"
  >
    <div class="head" role="row" :style="{ gridTemplateColumns: template }">
      <span class="mark" role="columnheader">#</span>
      <span
        v-for="line in columns"
        :key="line.key"
        role="columnheader"
        :class="{ numeric: numeric(line) }"
        :aria-sort="order?.column === line.key ? (order.down ? 'descending' : 'ascending') : undefined"
        :title="[line.label, line.from].filter(Boolean).join(', ')"
        @click="sortBy(line)"
        >{{ line.label }}{{ order?.column === line.key ? (order.down ? ' ↓' : ' ↑') : '' }}</span
      >
    </div>
    <div :style="{ height: `${inSight.first * ROW}px` }"></div>
    <GridRow
      v-for="(row, index) in drawn"
      :key="row"
      :row="row"
      :number="inSight.first + index + 1"
      :columns="columns"
      :template="template"
      :findings="found.get(row)"
      :at="at.row === inSight.first + index ? at.column : -1"
      :left="several && inBlock(inSight.first + index) ? block.left : -1"
      :right="several && inBlock(inSight.first + index) ? block.right : -1"
      :editing="at.row === inSight.first + index ? editing : null"
      @pick="(column, extend) => pick(inSight.first + index, column, extend)"
      @begin="begin(null)"
      @typed="(text) => (editing = text)"
      @leave="commit"
      @editor-key="onEditorKey"
    />
    <div :style="{ height: `${(rows.length - inSight.last) * ROW}px` }"></div>
  </div>
  <datalist v-for="line in columns.filter((c) => c.choices)" :id="`choices-${line.name}`" :key="line.key">
    <option v-for="choice in line.choices" :key="choice.code" :value="choice.code">{{ choice.label }}</option>
  </datalist>
  <div class="below">
    <button v-if="!store.locked" type="button" class="link" @click="add()">Add {{ table.rowLabel }}</button>
    <button v-if="!store.locked && rows.length" type="button" class="link" @click="removeRows">
      Remove {{ block.bottom > block.top ? `${block.bottom - block.top + 1} rows` : 'row' }}
    </button>
    <span v-if="!rows.length" class="faint small">{{ all.length ? 'No matching rows.' : 'None yet.' }}</span>
    <span v-else class="faint small keys"
      >type to change, <kbd>Ctrl D</kbd> fill down, <kbd>Ctrl V</kbd> paste a block, <kbd>Ctrl -</kbd> remove</span
    >
  </div>
  <p v-for="message in told" :key="message" class="told small">{{ message }}</p>
  <GridSubtotals v-if="!page" :section="section" />
</template>

<style scoped>
.bar,
.below {
  display: flex;
  align-items: center;
  gap: 16px;
  flex-wrap: wrap;
  min-height: 36px;
}
.words {
  width: 170px;
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
.count {
  margin-right: auto;
}
.grid {
  height: min(56vh, 560px);
  border: 1px solid var(--hairline);
  overflow: auto;
  outline-offset: -1px;
  position: relative;
  contain: strict;
}
.head {
  display: grid;
  height: 28px;
  width: var(--across);
  min-width: 100%;
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--paper);
  border-bottom: 1px solid var(--ink);
}
.head .mark {
  text-align: right;
  border-right: 1px solid var(--hairline);
}
.head span {
  font-size: 12px;
  font-weight: 600;
  color: var(--secondary);
  padding: 5px 7px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: pointer;
}
.numeric {
  text-align: right;
}
.told {
  margin: 2px 0;
  color: var(--secondary);
}
.keys {
  margin-left: auto;
}
</style>
