<script setup lang="ts">
import { computed, inject, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { amount, plural } from '../shared/format'
import { placeKey, type Line, type ReturnStore, type Section, type Spot } from '../return/returnStore'
import { blockOf, idOf, isNumeric as numeric, proposalIn, visible, widthOf, type Cell } from './gridCells'
import CodeList from './CodeList.vue'
import { chooses, meant, useGridBlock } from './gridBlock'
import { useGridRows } from './gridRows'
import GridFiles from './GridFiles.vue'
import GridRow from './GridRow.vue'
import GridSubtotals from './GridSubtotals.vue'
import MappingBar from './MappingBar.vue'

/** Many rows as a grid: one editor that goes from cell to cell, only the rows on screen are drawn. Within a page, those that belong to it. */
const props = defineProps<{ section: Section; page?: string }>()
const store = inject<ReturnStore>('return')!

const ROW = 28
const {
  table,
  all,
  columns,
  template,
  across,
  leftOf,
  fixed,
  words,
  onlyFound,
  order,
  found,
  text,
  rows,
  sortBy,
  showAll,
} = useGridRows(store, props)
const typedOrText = (row: string, line: Line) => store.drafts.get(placeKey(line.key, row))?.typed ?? text(row, line)

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
/** Why what was typed could not be taken into the cell; nothing typed is dropped in silence. */
const barred = ref('')
const block = computed(() => blockOf(anchor.value, at.value))
const several = computed(() => block.value.top !== block.value.bottom || block.value.left !== block.value.right)
const { chosen, each, clear, fillDown, onCopy, onPaste } = useGridBlock(store, props, {
  rows,
  columns,
  block,
  editing,
  text,
  typedOrText,
})
let before = ''
let seen = 0
/** Where rows go: the bar above, and the section that holds parts of rows. */
const mapping = ref<InstanceType<typeof MappingBar>>()
const partsOf = computed(() =>
  store.layout.forms
    .flatMap((f) => f.sections)
    .find((s) => s.lines.some((l) => l.key === s.table?.splits && l.target === table.value.key)),
)
/** Splits the row: a part of it, to be given its share and where it goes. */
function split() {
  const row = rowAt(at.value)
  const parts = partsOf.value
  if (!row || !parts || store.locked) return
  const of = parts.lines.find((l) => l.key === parts.table!.splits)!
  const part = store.addRow(parts, undefined, false)
  store.setMany([[part, of, row]])
  const next = parts.lines[parts.lines.indexOf(of) + 1]!
  void nextTick(() => store.goTo({ line: next.key, row: part }))
}

const lineAt = (cell: Cell) => columns.value[cell.column]!
const rowAt = (cell: Cell) => rows.value[cell.row]
const inBlock = (row: number) => row >= block.value.top && row <= block.value.bottom
const active = computed(() => (rowAt(at.value) ? idOf(rowAt(at.value)!, lineAt(at.value)) : undefined))

const told = computed(() => {
  const row = rowAt(at.value)
  if (!row) return []
  const line = lineAt(at.value)
  const draft = store.drafts.get(placeKey(line.key, row))
  const proposal = proposalIn(store, row, line)
  return [
    ...(barred.value ? [barred.value] : []),
    ...(draft?.message ? [draft.message] : []),
    ...(proposal
      ? [
          `${amount(proposal)} is proposed by ‘${store.lineOf(line.proposedBy!)!.label}’: Enter takes it, or type over it.`,
        ]
      : []),
    ...(found.value.get(row) ?? []).map((f) => f.message),
  ]
})
/** The cells for which an amount is proposed and nobody has confirmed it. */
const proposed = computed(() =>
  store.locked
    ? []
    : columns.value
        .filter((line) => line.proposedBy)
        .flatMap((line) =>
          rows.value
            .map((row): [string, Line, string] => [row, line, proposalIn(store, row, line)])
            .filter(([, , value]) => value),
        ),
)

function go(row: number, column: number, extend = false) {
  at.value = {
    row: Math.max(0, Math.min(row, rows.value.length - 1)),
    column: Math.max(0, Math.min(column, columns.value.length - 1)),
  }
  if (!extend) anchor.value = at.value
  barred.value = ''
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
  const left = leftOf(at.value.column)
  const width = widthOf(lineAt(at.value))
  if (at.value.column > 0 && left < box.scrollLeft + fixed.value) box.scrollLeft = left - fixed.value
  else if (left + width > box.scrollLeft + box.clientWidth) box.scrollLeft = left + width - box.clientWidth
  // What comes into sight is drawn with what changed, not once more when the browser tells of the scrolling.
  scrollTop.value = box.scrollTop
}

const mayType = (row: string, line: Line) =>
  !line.computed && !store.locked && !!store.values.get(placeKey(line.key, row))?.open

function begin(typed: string | null) {
  const row = rowAt(at.value)
  const line = lineAt(at.value)
  if (!row) return
  if (!mayType(row, line)) {
    barred.value = store.locked
      ? 'This return can no longer be changed at this stage.'
      : line.computed
        ? `‘${line.label}’ is computed and not typed into.`
        : `‘${line.label}’ does not apply to this row.`
    return
  }
  seen = store.revision.value
  before = store.drafts.get(placeKey(line.key, row))?.typed ?? store.said(line.key, row)
  if (line.kind === 'row' && before) before = store.nameOfTarget(line, before)
  editing.value = typed ?? (before || proposalIn(store, row, line))
  void nextTick(() => {
    const editor = editorOf()
    editor?.focus()
    if (typed === null) editor?.select()
    else editor?.setSelectionRange(typed.length, typed.length)
  })
}

/** The list of codes beside the editor. */
const codes = ref<InstanceType<typeof CodeList>>()
const choosing = computed(() => editing.value !== null && chooses(lineAt(at.value)))
const editorShown = ref<HTMLElement>()
watch(choosing, async (now) => {
  await nextTick()
  editorShown.value = now ? (editorOf() ?? undefined) : undefined
})
function choose(code: string) {
  editing.value = code
  leave(0, 1)
}

function pick(row: number, column: number, extend: boolean) {
  giveUp()
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
  if (typed !== before) store.set(line.key, row, meant(store, line, typed), seen)
}

function leave(rowsDown: number, columnsRight: number) {
  commit()
  scroller.value?.focus()
  go(at.value.row + rowsDown, at.value.column + columnsRight)
}

/** Goes on to the next cell that can be typed into, over the end of a row; false at the end of the grid. */
function goOn(by: 1 | -1): boolean {
  const across = columns.value.length
  for (
    let cell = at.value.row * across + at.value.column + by;
    cell >= 0 && cell < rows.value.length * across;
    cell += by
  ) {
    const [row, column] = [Math.floor(cell / across), cell % across]
    if (mayType(rows.value[row]!, columns.value[column]!)) {
      go(row, column)
      return true
    }
  }
  return false
}

function onEditorKey(event: KeyboardEvent) {
  if (choosing.value && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
    codes.value?.move(event.key === 'ArrowDown' ? 1 : -1)
  } else if (event.key === 'Enter') {
    const pointed = choosing.value && editing.value ? codes.value?.pointed() : null
    if (pointed) editing.value = pointed
    const toMap =
      lineAt(at.value).key === table.value.mapsTo && !event.shiftKey
        ? mapping.value?.nextToMap(rows.value, at.value.row)
        : undefined
    leave(toMap === undefined ? (event.shiftKey ? -1 : 1) : toMap - at.value.row, 0)
  } else if (event.key === 'Tab') {
    commit()
    scroller.value?.focus()
    goOn(event.shiftKey ? -1 : 1)
  } else if (event.key === 'Escape') {
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
  if (adding && !event.ctrlKey && !event.metaKey && !event.altKey && event.key !== 'Shift') {
    if (event.key === 'Escape') giveUp()
    else early.push(event)
    event.preventDefault()
    return
  }
  const { row, column } = at.value
  const command = event.ctrlKey || event.metaKey
  const letter = event.key.toLowerCase()
  if (steps[event.key] && !event.altKey) go(row + steps[event.key]![0], column + steps[event.key]![1], event.shiftKey)
  else if (event.key === 'Home') go(command ? 0 : row, 0, event.shiftKey)
  else if (event.key === 'End') go(command ? rows.value.length - 1 : row, columns.value.length - 1, event.shiftKey)
  else if (event.key === 'Tab') {
    if (!goOn(event.shiftKey ? -1 : 1)) return
  } else if (event.key === 'Enter') {
    confirm()
    go(row + (event.shiftKey ? -1 : 1), column)
  } else if (event.key === 'F2') begin(null)
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
  else if (event.altKey && letter === 'l' && mapping.value)
    mapping.value.takeFor(rows.value.slice(block.value.top, block.value.bottom + 1))
  else if (event.altKey && letter === 's' && partsOf.value) split()
  else if (event.altKey && letter === 'y' && rowAt(at.value)) store.duplicateRow(props.section, rowAt(at.value)!)
  else if (event.key === 'Escape') anchor.value = at.value
  else if (command || event.altKey || event.key.length !== 1) return
  else if (lineAt(at.value).kind === 'answer') {
    if (letter === 'y' || letter === 'n') each((id, line) => [id, line, letter === 'y' ? 'yes' : 'no'])
  } else begin(event.key)
  event.preventDefault()
}

/** Takes the amount proposed for the active cell. */
function confirm() {
  const id = rowAt(at.value)
  const value = id ? proposalIn(store, id, lineAt(at.value)) : ''
  if (id && value && mayType(id, lineAt(at.value))) store.setMany([[id, lineAt(at.value), value]])
}

function removeRows() {
  if (store.locked) return
  store.removeRows(props.section, rows.value.slice(block.value.top, block.value.bottom + 1))
  void nextTick(() => go(block.value.top, at.value.column))
}
function add(after?: string) {
  if (store.locked) return
  showAll()
  order.value = null
  adding = store.addRow(props.section, after, false, props.page)
  awaited.value = { line: columns.value[0]!.key, row: adding }
  scroller.value?.focus()
}

/** A jump from elsewhere: from a finding, for example; to a row that is only about to come, once it is there. */
const awaited = ref<Spot | null>(null)
/** The row that was asked for and is not there yet, and what is typed meanwhile: it goes into that row, not into the one that is left. */
let adding: string | null = null
let early: KeyboardEvent[] = []
/** Waits no longer: somebody goes elsewhere. */
function giveUp() {
  adding = awaited.value = null
  early = []
}
function catchUp() {
  const keys = early
  early = []
  let typed = ''
  for (const key of keys) {
    if (key.key.length === 1) {
      typed += key.key
      continue
    }
    if (typed) begin(typed)
    if (editing.value === null) onKey(key)
    else onEditorKey(key)
    typed = ''
  }
  if (typed) begin(typed)
}
watch(all, (now) => {
  if (!awaited.value || !now.includes(awaited.value.row!)) return
  const added = awaited.value.row === adding
  comeTo(awaited.value)
  if (!added) return
  adding = null
  void nextTick(catchUp)
})
watch(() => store.focus.value, comeTo, { immediate: true })
function comeTo(spot: Spot | null) {
  awaited.value = null
  if (!spot?.row || (focused.value && spot.row === rowAt(at.value) && spot.line === lineAt(at.value).key)) return
  if (!rows.value.includes(spot.row) && all.value.includes(spot.row)) showAll()
  const row = rows.value.indexOf(spot.row)
  const column = columns.value.findIndex((c) => c.key === spot.line)
  if (row < 0 && column >= 0) awaited.value = spot
  if (row < 0 || column < 0) return
  commit()
  at.value = anchor.value = { row, column }
  void nextTick(() => {
    show()
    scroller.value?.focus()
  })
}
let resized: ResizeObserver | undefined
onMounted(() => {
  resized = new ResizeObserver(() => (height.value = scroller.value?.clientHeight ?? height.value))
  if (scroller.value) resized.observe(scroller.value)
})
onBeforeUnmount(() => resized?.disconnect())
</script>

<template>
  <MappingBar v-if="table.mapsTo" ref="mapping" :section="section" />
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
        v-for="(line, column) in columns"
        :key="line.key"
        role="columnheader"
        :class="{ numeric: numeric(line), first: column === 0 }"
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
  <CodeList
    v-if="choosing && editorShown"
    id="grid-codes"
    ref="codes"
    :field="editorShown"
    :codes="store.choicesOf(lineAt(at))"
    :typed="editing!"
    :current="before"
    @choose="choose"
  />
  <div class="below">
    <button v-if="!store.locked" type="button" class="link" @click="add()">Add {{ table.rowLabel }}</button>
    <button v-if="!store.locked && rows.length" type="button" class="link" @click="removeRows">
      Remove {{ block.bottom > block.top ? `${block.bottom - block.top + 1} rows` : 'row' }}
    </button>
    <button v-if="proposed.length" type="button" class="link" @click="store.setMany(proposed)">
      Take {{ plural(proposed.length, 'proposed amount') }}
    </button>
    <span v-if="!rows.length" class="faint small">{{ all.length ? 'No matching rows.' : 'None yet.' }}</span>
    <span v-else class="faint small keys"
      >type to change, <kbd>F2</kbd> edit, <kbd>Ctrl D</kbd> fill down, <kbd>Ctrl V</kbd> paste a block,
      <kbd>Ctrl -</kbd> remove<template v-if="table.mapsTo"
        >, <kbd>Alt L</kbd> map as proposed, <kbd>Alt S</kbd> split, <kbd>Enter</kbd> next to map</template
      ></span
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
.head .mark,
.head .first {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--paper);
}
.head .first {
  left: 44px;
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
