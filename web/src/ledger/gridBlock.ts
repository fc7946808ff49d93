import { computed, type ComputedRef, type Ref } from 'vue'
import { meantCode } from '../shared/codes'
import { amount, fromCents, toCents, typedAs } from '../shared/format'
import type { Line, ReturnStore, Section } from '../return/returnStore'
import { isNumeric, readBlock, writeBlock, type Block } from './gridCells'

/** Whether what is typed into a cell chooses one of several: a code, or a row that is pointed at. */
export const chooses = (line: Line): boolean => line.kind === 'choice' || line.kind === 'row'

/** What a person means by what was typed into a cell: of a list, the code; of rows, the one of that number or name. */
export const meant = (store: ReturnStore, line: Line, typed: string): string =>
  chooses(line) ? meantCode(store.choicesOf(line), typed) : typed

/** Acts on the block of cells that is chosen: sum, clear, fill down, copy, paste. */
export function useGridBlock(
  store: ReturnStore,
  props: { section: Section; page?: string },
  grid: {
    rows: ComputedRef<string[]>
    columns: ComputedRef<Line[]>
    block: ComputedRef<Block>
    editing: Ref<string | null>
    text: (row: string, line: Line) => string
    typedOrText: (row: string, line: Line) => string
  },
) {
  const { rows, columns, block, editing, text, typedOrText } = grid
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

  function onCopy(event: ClipboardEvent) {
    if (editing.value !== null) return
    const copied: string[][] = []
    for (let row = block.value.top; row <= block.value.bottom; row++)
      copied.push(
        columns.value
          .slice(block.value.left, block.value.right + 1)
          .map((c) => (isNumeric(c) ? typedAs(typedOrText(rows.value[row]!, c)) : typedOrText(rows.value[row]!, c))),
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
        cells
          .slice(0, into.length)
          .map((cell, index): [Line, string] => [into[index]!, meant(store, into[index]!, cell)]),
      ),
      props.page,
    )
  }
  return { chosen, each, clear, fillDown, onCopy, onPaste }
}
