import type { Schemas } from '../api/client'

/**
 * Formatting of canonical values. Amounts stay texts: they are grouped by their digits and never pass through
 * floating point.
 */

/** How numbers are written: marks, and digits of every group but the lowest, which has three. */
export type Writing = Schemas['NumberLayout']
export const POINT: Writing = { decimal: '.', group: ',', higherGroups: 3 }
let writing = POINT

/** Numbers are written so from now on: as the country of the return that is open writes them. */
export function writeNumbers(as: Writing) {
  writing = as
}

/** Whole part in groups: 1234567 becomes 1,234,567. */
function grouped(digits: string): string {
  const lowest = digits.slice(-3)
  const higher = digits.slice(0, -3)
  if (!higher) return digits
  return (
    higher.replace(new RegExp(`\\B(?=(\\d{${writing.higherGroups}})+(?!\\d))`, 'g'), writing.group) +
    writing.group +
    lowest
  )
}

/** An amount: whole amounts without cents, others with two; negative ones in parentheses. */
export function amount(value: string | null | undefined): string {
  if (value == null || value === '') return ''
  const negative = value.startsWith('-')
  const [whole = '0', cents = ''] = value.replace('-', '').split('.')
  const text = grouped(whole) + (cents && !/^0+$/.test(cents) ? writing.decimal + cents.padEnd(2, '0') : '')
  return negative ? `(${text})` : text
}

/** A figure worked out on the way, such as a quotient, to eight places; that more follow is shown. */
export const onTheWay = (text: string): string => text.replace(/([.,]\d{8})\d+/, '$1…')

/** An amount as it is edited: grouped, with a minus. */
export function editable(value: string): string {
  if (value === '') return ''
  const [whole = '0', cents] = value.replace('-', '').split('.')
  return (value.startsWith('-') ? '-' : '') + grouped(whole) + (cents ? writing.decimal + cents : '')
}

/** A canonical number as it would be typed. */
export const typedAs = (value: string, as: Writing = writing): string => value.replace('.', as.decimal)

/** Difference of two amounts with at most two decimals, exact, as canonical text. */
export function difference(left: string, right: string): string {
  return fromCents(toCents(left) - toCents(right))
}

/** An amount in cents as canonical text. */
export function fromCents(cents: bigint): string {
  const size = cents < 0n ? -cents : cents
  return `${cents < 0n ? '-' : ''}${size / 100n}${size % 100n === 0n ? '' : `.${String(size % 100n).padStart(2, '0')}`}`
}

/** Canonical text as an amount in cents; more than two decimals are cut. */
export function toCents(value: string): bigint {
  const negative = value.startsWith('-')
  const [whole = '0', cents = ''] = value.replace('-', '').split('.')
  const size = BigInt(whole) * 100n + BigInt(cents.padEnd(2, '0').slice(0, 2) || '0')
  return negative ? -size : size
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** A month: 2025-08 becomes Aug 2025. */
export const month = (value: string): string => `${MONTHS[Number(value.slice(5, 7)) - 1]} ${value.slice(0, 4)}`

/** The first of somebody's names, by which a family speaks of one. */
export const given = (name: string): string => name.split(' ')[0]!

/** A calendar date: 2026-06-30 becomes 30 Jun 2026. */
export function day(value: string | null | undefined): string {
  const parts = /^(\d{4})-(\d{2})-(\d{2})/.exec(value ?? '')
  return parts ? `${Number(parts[3])} ${MONTHS[Number(parts[2]) - 1]} ${parts[1]}` : (value ?? '')
}

/** Whether a line holds a number. */
export const isNumber = (line: Pick<Schemas['LineLayout'], 'kind'>): boolean =>
  line.kind === 'money' || line.kind === 'count' || line.kind === 'number'

/** What a line holds, as it is read: an amount, a day, the name of a code. Without its line, by what it looks like. */
export function lineText(
  line: (Pick<Schemas['LineLayout'], 'kind' | 'choices'> & Partial<Pick<Schemas['LineLayout'], 'isYear'>>) | undefined,
  text: string | null | undefined,
): string {
  if (text == null) return ''
  if (line?.isYear) return text
  if (line?.kind === 'number') return editable(text)
  if (line ? isNumber(line) : /^-?\d+(\.\d+)?$/.test(text)) return amount(text)
  if (line ? line.kind === 'date' : /^\d{4}-\d{2}-\d{2}$/.test(text)) return day(text)
  return line?.choices?.find((choice) => choice.code === text)?.label ?? text
}

/** A moment: day and time of day. */
export function moment(value: string | null | undefined): string {
  return value ? `${day(value)}, ${timeOfDay(value)}` : ''
}

/** Hours and minutes of a moment. */
export function timeOfDay(value: string): string {
  return value.slice(11, 16)
}

/** Days until a day, in words. */
export function daysLeft(days: number): string {
  if (days < 0) return `${-days} ${days === -1 ? 'day' : 'days'} late`
  return days === 0 ? 'today' : `${days} ${days === 1 ? 'day' : 'days'}`
}

/** A text that begins with a capital. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** A count with its word. */
export function plural(count: number, one: string, many = one.replace(/([^aeiou])y$/, '$1ie') + 's'): string {
  return `${count} ${count === 1 ? one : many}`
}

/** The period of a year: nothing for the whole year, Q1, or second period. */
export const partOf = (period: string | undefined): string =>
  period === 'second' ? 'second period' : (period ?? '').toUpperCase()

/** A year and its period: 2025, 2025 Q1, or 2025 second period. */
export const periodOf = (of: { year: number; period?: string }): string => `${of.year} ${partOf(of.period)}`.trim()
