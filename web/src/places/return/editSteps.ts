import type { Schemas } from '../../api/client'

type Line = Schemas['LineLayout']
type Section = Schemas['SectionLayout']

export type Change = Schemas['EntryChange']

/** Changes that are made as one and undone as one; or an act on the server that stands for them. */
export interface Step {
  undo: Change[] | (() => Promise<unknown>)
  redo: Change[] | (() => Promise<unknown>)
}

/** What steps are made from: what the return says now, what is still on its way to the server included. */
export interface Now {
  said(line: string, row: string | null): string
  rowsOf(section: string): string[]
  readonly revision: { value: number }
}

/** Taking back goes over whatever was seen. */
const WHATEVER_WAS_SEEN = Number.MAX_SAFE_INTEGER

let freshRow = 0
function newRow(): string {
  return `r${Date.now().toString(36)}-${(freshRow++).toString(36)}-${crypto.getRandomValues(new Uint16Array(1))[0]!.toString(36)}`
}

const setting = (line: string, row: string | null, value: string, seen: number): Change => ({
  kind: 'set',
  line,
  row,
  section: null,
  position: null,
  value,
  seen,
})

function rowChange(
  now: Now,
  kind: 'add-row' | 'remove-row' | 'move-row',
  section: Section,
  row: string,
  position: number | null = null,
): Change {
  return { kind, line: null, row, section: section.table!.key, position, value: null, seen: now.revision.value }
}

/** Sets cells; `seen` is the revision when typing began. */
export function setStep(now: Now, cells: [string | null, string, string][], seen = now.revision.value): Step {
  return {
    redo: cells.map(([row, line, typed]) => setting(line, row, typed, seen)),
    undo: cells.map(([row, line]) => setting(line, row, now.said(line, row), WHATEVER_WAS_SEEN)),
  }
}

/** Puts a block of typed texts into rows, from the first on; rows that are missing are added. */
export function pasteStep(now: Now, section: Section, into: string[], block: [Line, string][][]): Step {
  const undo: Change[] = []
  const redo: Change[] = []
  block.forEach((cells, index) => {
    const present = into[index]
    const row = present ?? newRow()
    if (!present) {
      redo.push(rowChange(now, 'add-row', section, row))
      undo.push(rowChange(now, 'remove-row', section, row))
    }
    for (const [line, typed] of cells) {
      if (!present && !typed) continue
      redo.push(setting(line.key, row, typed, now.revision.value))
      if (present) undo.push(setting(line.key, row, now.said(line.key, row), WHATEVER_WAS_SEEN))
    }
  })
  return { undo, redo }
}

/** Adds an empty row at a position; says which. */
export function addRowStep(now: Now, section: Section, position: number): { row: string; step: Step } {
  const row = newRow()
  return {
    row,
    step: {
      redo: [rowChange(now, 'add-row', section, row, position)],
      undo: [rowChange(now, 'remove-row', section, row)],
    },
  }
}

/** Adds a row below another, with all that was entered in it. */
export function duplicateStep(now: Now, section: Section, from: string): Step {
  const { row, step } = addRowStep(now, section, now.rowsOf(section.table!.key).indexOf(from) + 1)
  const copies = section.lines
    .filter((line) => !line.computed)
    .map((line) => setting(line.key, row, now.said(line.key, from), now.revision.value))
    .filter((change) => change.value !== '')
  return { ...step, redo: [...(step.redo as Change[]), ...copies] }
}

/** Removes rows. */
export function removeStep(now: Now, section: Section, rows: string[]): Step {
  const all = now.rowsOf(section.table!.key)
  return {
    redo: rows.map((row) => rowChange(now, 'remove-row', section, row)),
    undo: rows.map((row) => rowChange(now, 'add-row', section, row, all.indexOf(row))),
  }
}

/** Moves a row up or down. */
export function moveStep(now: Now, section: Section, row: string, by: number): Step {
  const from = now.rowsOf(section.table!.key).indexOf(row)
  return {
    redo: [rowChange(now, 'move-row', section, row, from + by)],
    undo: [rowChange(now, 'move-row', section, row, from)],
  }
}
