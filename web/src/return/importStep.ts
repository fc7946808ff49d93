import { api, call, type Schemas } from '../api/client'
import type { Step } from './editSteps'

type Section = Schemas['SectionLayout']
type Cell = Schemas['CellTakenBack']

/** The rows of a section and what is entered in them, at one moment. */
export interface RowsThen {
  rows: string[]
  cells: Map<string, Cell>
}

/** What an import step needs of a return. */
interface Return {
  readonly id: number
  rowsOf(section: string): string[]
  said(line: string, row: string | null): string
  takeResult(result: Schemas['EditResult']): void
  reload(): Promise<unknown>
}

/** Notes the rows of a section as they stand. */
export function rowsNow(store: Return, section: Section): RowsThen {
  const rows = [...store.rowsOf(section.table!.key)]
  const entered = section.lines.filter((line) => !line.computed)
  return {
    rows,
    cells: new Map(
      rows.flatMap((row) =>
        entered.map(
          (line) => [`${row} ${line.key}`, { row, line: line.key, value: store.said(line.key, row) }] as const,
        ),
      ),
    ),
  }
}

/** A file of rows as one step: undo takes it back whole, rows and cells. */
export function importStep(store: Return, section: Section, before: RowsThen, file: string): Step {
  const after = rowsNow(store, section)
  const put = (to: RowsThen, from: RowsThen, words: string) => async () => {
    const stays = new Set(to.rows.filter((row) => from.rows.includes(row)))
    store.takeResult(
      await call(
        api.POST('/api/returns/{id}/lists/{section}/take-back', {
          params: { path: { id: store.id, section: section.table!.key } },
          body: {
            remove: from.rows.filter((row) => !to.rows.includes(row)),
            restore: to.rows.filter((row) => !from.rows.includes(row)),
            words: `${file}, ${words}`,
            cells: [...to.cells]
              .filter(([key, cell]) => stays.has(cell.row) && from.cells.get(key)?.value !== cell.value)
              .map(([, cell]) => cell),
          },
        }),
      ),
    )
    await store.reload()
  }
  return { undo: put(before, after, 'taken back'), redo: put(after, before, 'taken again') }
}
