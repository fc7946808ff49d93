import { lineText } from '../shared/format'

export { isNumber as isNumeric } from '../shared/format'
import { placeKey, type Line, type ReturnStore } from '../return/returnStore'

/** A cell of a grid: position of its row as shown, and of its column. */
export interface Cell {
  row: number
  column: number
}

/** A block of cells, both corners included. */
export interface Block {
  top: number
  bottom: number
  left: number
  right: number
}

/** The block between two cells. */
export function blockOf(from: Cell, to: Cell): Block {
  return {
    top: Math.min(from.row, to.row),
    bottom: Math.max(from.row, to.row),
    left: Math.min(from.column, to.column),
    right: Math.max(from.column, to.column),
  }
}

/** What a spreadsheet puts on the clipboard: cells parted by tabs, rows by line ends; a cell in quotes may hold either. */
export function readBlock(text: string): string[][] {
  const rows: string[][] = [[]]
  let cell = ''
  let quoted = false
  const close = () => {
    rows.at(-1)!.push(cell.trim())
    cell = ''
  }
  for (let at = 0; at < text.length; at++) {
    const letter = text[at]!
    if (quoted) {
      if (letter !== '"') cell += letter
      else if (text[at + 1] === '"') {
        cell += '"'
        at++
      } else quoted = false
    } else if (letter === '"' && cell === '') quoted = true
    else if (letter === '\t') close()
    else if (letter === '\n') {
      close()
      rows.push([])
    } else if (letter !== '\r') cell += letter
  }
  close()
  if (rows.at(-1)!.length === 1 && rows.at(-1)![0] === '') rows.pop()
  return rows
}

/** A block as a spreadsheet takes it. */
export function writeBlock(rows: string[][]): string {
  const quote = (cell: string) => (/[\t\n"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)
  return rows.map((row) => row.map(quote).join('\t')).join('\n')
}

/** The rows that are on screen, with some above and below. */
export function visible(
  scrollTop: number,
  height: number,
  rowHeight: number,
  count: number,
  around = 4,
): { first: number; last: number } {
  const first = Math.max(0, Math.floor(scrollTop / rowHeight) - around)
  return { first, last: Math.min(count, Math.ceil((scrollTop + height) / rowHeight) + around) }
}

const widths: Record<string, number> = {
  text: 150,
  identifier: 132,
  choice: 136,
  row: 130,
  answer: 66,
  date: 96,
  count: 64,
  number: 64,
}

/** Width of a column, in pixels: amounts of a month or so are narrow, so that what is typed and its totals stand side by side. */
const LONG_LIST = 40
const SHORT_TEXT = 20
/** A code of a long list needs room for its words. */
export const widthOf = (line: Line): number =>
  (line.choices?.length ?? 0) > LONG_LIST
    ? 210
    : line.kind === 'text' && line.longestText <= SHORT_TEXT
      ? 92
      : (widths[line.kind] ?? 88)

/** Whether what a cell shows may be wider than its column. Only such cells are cut off: cutting costs the browser a layer each. */
export const mayOverflow = (shown: string, line: Line): boolean => shown.length * 8 > widthOf(line) - 14

/** Id of a cell in the page. */
export const idOf = (row: string, line: Line): string => `cell-${line.name}-${row}`

/** The amount proposed for a cell in which nothing is entered; empty where none is. */
export function proposalIn(store: ReturnStore, row: string, line: Line): string {
  if (!line.proposedBy) return ''
  const key = placeKey(line.key, row)
  const value = store.values.get(key)
  if (!value?.open || value.value || store.drafts.has(key)) return ''
  const by = store.values.get(placeKey(line.proposedBy, row))?.value ?? ''
  return by === '0' ? '' : by
}

/** What a cell shows. */
export function print(store: ReturnStore, row: string, line: Line): string {
  const key = placeKey(line.key, row)
  const draft = store.drafts.get(key)
  if (draft) return draft.typed
  const value = store.values.get(key)
  const shown = value?.value ?? ''
  if (!value?.open) return value?.kept ? '(kept)' : ''
  return line.kind === 'row' && shown ? store.nameOfTarget(line, shown) : lineText(line, shown)
}
