import { computed, ref } from 'vue'
import { placeKey, type Finding, type Line, type ReturnStore, type Section } from '../return/returnStore'
import { isNumeric, print, widthOf } from './gridCells'

const MARK = 44

/** What a grid shows of a repeating section: which rows, in which order, which columns, and how wide; the return keeps its own order. */
export function useGridRows(store: ReturnStore, props: { section: Section; page?: string }) {
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
      `${MARK}px ${columns.value.map((c) => (props.page ? `minmax(0, ${isNumeric(c) ? 1 : 2}fr)` : `${widthOf(c)}px`)).join(' ')}`,
  )
  const across = computed(() => (props.page ? '100%' : `${columns.value.reduce((sum, c) => sum + widthOf(c), MARK)}px`))
  /** Where a column begins and ends, in pixels from the left; the first column and the row's number stay in sight. */
  const leftOf = (column: number) => MARK + columns.value.slice(0, column).reduce((sum, c) => sum + widthOf(c), 0)
  const fixed = computed(() => MARK + (columns.value[0] ? widthOf(columns.value[0]) : 0))

  /** Rows that went nowhere when the page was opened stand first; they stay where they are while they are mapped. */
  const first = new Set(
    table.value.mapsTo ? store.rowsOf(table.value.key).filter((row) => !store.said(table.value.mapsTo!, row)) : [],
  )

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

  /** The rows as shown: those that have the words looked for, ordered by the column chosen. */
  const rows = computed(() => {
    let shown = first.size
      ? [...all.value.filter((row) => first.has(row)), ...all.value.filter((row) => !first.has(row))]
      : all.value
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
      const compare = isNumeric(by)
        ? (a: string, b: string) => Number(text(a, by) || 0) - Number(text(b, by) || 0)
        : (a: string, b: string) => text(a, by).localeCompare(text(b, by))
      shown = [...shown].sort((a, b) => sign * compare(a, b))
    }
    return shown
  })
  function sortBy(line: Line) {
    const now = order.value
    order.value =
      now?.column !== line.key ? { column: line.key, down: false } : now.down ? null : { ...now, down: true }
  }
  function showAll() {
    words.value = ''
    onlyFound.value = false
  }
  return {
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
  }
}
