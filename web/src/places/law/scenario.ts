import type { Schemas } from '../../api/client'
import { fromCents, toCents } from '../../shared/format'

type Change = Schemas['LawChangeTyped']
type Moved = Schemas['MovedReturn']

/** A figure as it is, to be typed over: its value, or its ranges by upper edge. */
export function changeOf(figure: Schemas['LawFigureView']): Change {
  const bare = (text: string) => text.replace(/%$/, '')
  return figure.rows.length
    ? {
        figure: figure.key,
        value: null,
        ranges: figure.rows.map((row) => ({
          upTo: /to (\S+)$/.exec(row.range)?.[1] ?? '',
          value: bare(row.value),
        })),
      }
    : { figure: figure.key, value: bare(figure.value), ranges: null }
}

/** A list with another item in a place, or without it. */
export const replaced = <T>(list: readonly T[], place: number, item: T | null): T[] =>
  list.flatMap((there, at) => (at !== place ? [there] : item === null ? [] : [item]))

/** A change with one more range before the last, open one. */
export const withRange = (change: Change): Change => ({
  ...change,
  ranges: [...change.ranges!.slice(0, -1), { upTo: '', value: '' }, change.ranges!.at(-1)!],
})

/** Whether a change says what the law says already. */
export function saysTheSame(change: Change, figure: Schemas['LawFigureView'] | undefined): boolean {
  return figure !== undefined && JSON.stringify(change) === JSON.stringify(changeOf(figure))
}

const size = (difference: string) => {
  const cents = toCents(difference)
  return cents < 0n ? -cents : cents
}

/** Those that move most, the largest difference first. */
export const largest = (moved: Moved[], most: number): Moved[] =>
  [...moved]
    .sort((left, right) => {
      const [a, b] = [size(left.difference), size(right.difference)]
      return a < b ? 1 : a > b ? -1 : left.client.localeCompare(right.client)
    })
    .slice(0, most)

export interface Sum {
  more: number
  less: number
  filed: number
  approved: number
  findings: number
  together: string
}

/** How many pay more, how many less, how many of them are filed, and what it is for all together. */
export function summed(moved: Moved[]): Sum {
  return {
    more: moved.filter((m) => toCents(m.difference) > 0n).length,
    less: moved.filter((m) => toCents(m.difference) < 0n).length,
    filed: moved.filter((m) => m.filed).length,
    approved: moved.filter((m) => m.approved).length,
    findings: moved.filter((m) => m.findingsAdded || m.findingsGone).length,
    together: fromCents(moved.reduce((sum, m) => sum + toCents(m.difference), 0n)),
  }
}

export interface Bar {
  from: string
  to: string
  count: number
  less: boolean
}

const BARS_A_SIDE = 5

/** Winners and losers: how many returns fall into each of ten equal steps from the most that one pays less to the most that one pays more. */
export function histogram(moved: Moved[]): Bar[] {
  const cents = moved.map((m) => toCents(m.difference)).filter((c) => c !== 0n)
  if (!cents.length) return []
  const widest = cents.map((c) => (c < 0n ? -c : c)).reduce((most, c) => (c > most ? c : most))
  const sides = BigInt(BARS_A_SIDE)
  const step = widest / sides + (widest % sides ? 1n : 0n)
  return Array.from({ length: 2 * BARS_A_SIDE }, (_, index) => {
    const from = BigInt(index - BARS_A_SIDE) * step
    const to = from + step
    const less = index < BARS_A_SIDE
    const count = cents.filter((c) => (less ? c >= from && c < to : c > from && c <= to)).length
    return { from: fromCents(from), to: fromCents(to), count, less }
  })
}
