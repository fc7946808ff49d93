import { describe, expect, it } from 'vitest'
import {
  POINT,
  amount,
  day,
  daysLeft,
  difference,
  editable,
  lineText,
  onTheWay,
  partOf,
  periodOf,
  plural,
  writeNumbers,
} from './format'

describe('amounts', () => {
  it.each([
    ['1234567', '1,234,567'],
    ['1234567.5', '1,234,567.50'],
    ['-742', '(742)'],
    ['-0.05', '(0.05)'],
    ['999', '999'],
    ['100.00', '100'],
    ['', ''],
    [null, ''],
    ['999999999999.99', '999,999,999,999.99'],
  ])('%s is printed as %s', (value, printed) => expect(amount(value)).toBe(printed))

  it.each([
    ['13.29241151554311149400531', '13.29241151…'],
    ['(1,234.123456789)', '(1,234.12345678…)'],
    ['0,123456789', '0,12345678…'],
    ['0.12345678', '0.12345678'],
    ['123,456,789', '123,456,789'],
  ])('%s worked out on the way is shown as %s', (value, shown) => expect(onTheWay(value)).toBe(shown))

  it.each([
    ['1234.5', '1,234.5'],
    ['-1234', '-1,234'],
    ['', ''],
  ])('%s is edited as %s', (value, edited) => expect(editable(value)).toBe(edited))

  it.each([
    ['0.3', '0.1', '0.20'],
    ['67233', '67553', '-320'],
    ['-3600', '0', '-3600'],
    ['999999999999.99', '0.01', '999999999999.98'],
    ['5', '5', '0'],
  ])('%s less %s is exactly %s', (left, right, result) => expect(difference(left, right)).toBe(result))
})

describe('numbers as countries write them', () => {
  it.each([
    [{ decimal: ',', group: '.', higherGroups: 3 }, '1.234.567,50', '-1.234.567,5'],
    [{ decimal: '.', group: ',', higherGroups: 2 }, '12,34,567.50', '-12,34,567.5'],
    [POINT, '1,234,567.50', '-1,234,567.5'],
  ])('%o', (writing, shown, edited) => {
    writeNumbers(writing)
    expect(amount('1234567.5')).toBe(shown)
    expect(editable('-1234567.5')).toBe(edited)
    expect(amount('567')).toBe('567')
    writeNumbers(POINT)
  })
})

describe('dates', () => {
  it('prints days', () => expect(day('2026-06-30')).toBe('30 Jun 2026'))
  it.each([
    [12, '12 days'],
    [1, '1 day'],
    [0, 'today'],
    [-1, '1 day late'],
    [-353, '353 days late'],
  ])('%d days are said as %s', (days, words) => expect(daysLeft(days)).toBe(words))
})

describe('what a line holds', () => {
  const line = (kind: string, choices: object[] | null = null) => ({ kind, choices }) as never
  it.each([
    [line('money'), '-1240000', '(1,240,000)'],
    [line('count'), '68', '68'],
    [line('count'), '2024', '2,024'],
    [{ ...(line('count') as object), isYear: true } as never, '2024', '2024'],
    [line('date'), '2026-06-18', '18 Jun 2026'],
    [line('identifier'), '30077001900000', '30077001900000'],
    [line('choice', [{ code: 'standard', label: 'Standard deduction' }]), 'standard', 'Standard deduction'],
    [line('choice', [{ code: 'standard', label: 'Standard deduction' }]), 'gone', 'gone'],
    [line('answer'), 'yes', 'yes'],
    [line('money'), null, ''],
    [undefined, '1240000', '1,240,000'],
    [undefined, '2026-06-18', '18 Jun 2026'],
    [undefined, '10%', '10%'],
  ])('%o with %s is read as %s', (of, text, read) => expect(lineText(of, text)).toBe(read))
})

describe('counts and periods', () => {
  it.each([
    [1, 'company', '1 company'],
    [0, 'company', '0 companies'],
    [3, 'entry', '3 entries'],
    [2, 'day', '2 days'],
    [2, 'account', '2 accounts'],
  ])('%i of %s is %s', (count, word, words) => expect(plural(count, word)).toBe(words))

  it('names the period of a year', () => {
    expect(periodOf({ year: 2025 })).toBe('2025')
    expect(periodOf({ year: 2025, period: 'q1' })).toBe('2025 Q1')
    expect(periodOf({ year: 2025, period: 'second' })).toBe('2025 second period')
    expect(partOf(undefined)).toBe('')
  })
})
