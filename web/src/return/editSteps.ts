import type { Schemas } from '../api/client'

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
  /** The repeating sections whose rows stand within a page of another, with the rows of that page. */
  within(section: Section, page: string): { section: Section; rows: string[] }[]
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
export function pasteStep(now: Now, section: Section, into: string[], block: [Line, string][][], page?: string): Step {
  const undo: Change[] = []
  const redo: Change[] = []
  block.forEach((cells, index) => {
    const present = into[index]
    const row = present ?? newRow()
    if (!present) {
      redo.push(rowChange(now, 'add-row', section, row))
      if (page) redo.push(setting(section.table!.ofPage!, row, page, now.revision.value))
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

/** Adds an empty row at a position, within a page where one is given; says which. */
export function addRowStep(now: Now, section: Section, position: number, page?: string): { row: string; step: Step } {
  const row = newRow()
  const belongs = page ? [setting(section.table!.ofPage!, row, page, now.revision.value)] : []
  return {
    row,
    step: {
      redo: [rowChange(now, 'add-row', section, row, position), ...belongs],
      undo: [rowChange(now, 'remove-row', section, row)],
    },
  }
}

/** Adds a row under a name of its own, with what is said in it: what was typed beside a code that had no row yet. */
export function listedStep(now: Now, section: Section, row: string, cells: [string, string][]): Step {
  return {
    redo: [
      rowChange(now, 'add-row', section, row),
      ...cells.map(([line, typed]) => setting(line, row, typed, now.revision.value)),
    ],
    undo: [rowChange(now, 'remove-row', section, row)],
  }
}

/** Adds a row below another, with all that was entered in it; a page with all the rows within it. */
export function duplicateStep(now: Now, section: Section, from: string): { row: string; step: Step } {
  const { row, step } = addRowStep(now, section, now.rowsOf(section.table!.key).indexOf(from) + 1)
  const redo = [...(step.redo as Change[]), ...copies(now, section, from, row)]
  for (const { section: inner, rows } of now.within(section, from))
    for (const one of rows) {
      const copy = newRow()
      redo.push(rowChange(now, 'add-row', inner, copy))
      redo.push(
        ...copies(now, inner, one, copy).filter((change) => change.line !== inner.table!.ofPage),
        setting(inner.table!.ofPage!, copy, row, now.revision.value),
      )
    }
  return { row, step: { ...step, redo } }
}

function copies(now: Now, section: Section, from: string, to: string): Change[] {
  return section.lines
    .filter((line) => !line.computed)
    .map((line) => setting(line.key, to, now.said(line.key, from), now.revision.value))
    .filter((change) => change.value !== '')
}

/** Removes rows; of pages the rows within them too. */
export function removeStep(now: Now, section: Section, rows: string[]): Step {
  const gone = [...rows.flatMap((row) => now.within(section, row)), { section, rows }].flatMap((part) =>
    part.rows.map((row) => ({
      section: part.section,
      row,
      position: now.rowsOf(part.section.table!.key).indexOf(row),
    })),
  )
  return {
    redo: gone.map((g) => rowChange(now, 'remove-row', g.section, g.row)),
    undo: [...gone]
      .sort((left, right) => left.position - right.position)
      .map((g) => rowChange(now, 'add-row', g.section, g.row, g.position)),
  }
}

/** Moves a row to where another stands. */
export function moveStep(now: Now, section: Section, row: string, to: string): Step {
  const all = now.rowsOf(section.table!.key)
  return {
    redo: [rowChange(now, 'move-row', section, row, all.indexOf(to))],
    undo: [rowChange(now, 'move-row', section, row, all.indexOf(row))],
  }
}
