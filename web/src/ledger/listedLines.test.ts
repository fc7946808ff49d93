import { expect, test } from 'vitest'
import { listedLines } from './listedLines'

const choices = [
  { code: 'rent', label: 'Rent' },
  { code: 'taxes', label: 'Taxes and licences' },
]

test('each code has a line, in the order of the list, whether there is a row or not', () => {
  expect(listedLines(choices, [{ row: 'r7', code: 'taxes' }])).toEqual([
    { code: 'rent', label: 'Rent', row: 'listed-rent', present: false },
    { code: 'taxes', label: 'Taxes and licences', row: 'r7', present: true },
  ])
})

test('a code that stands in two rows keeps both, and a row without a known code comes last', () => {
  const lines = listedLines(choices, [
    { row: 'r1', code: '' },
    { row: 'r2', code: 'rent' },
    { row: 'r3', code: 'rent' },
    { row: 'r4', code: 'gone' },
  ])
  expect(lines.map((l) => [l.row, l.code])).toEqual([
    ['r2', 'rent'],
    ['r3', 'rent'],
    ['listed-taxes', 'taxes'],
    ['r1', ''],
    ['r4', ''],
  ])
})

test('the row of a code is never one that is there for another', () => {
  const lines = listedLines(choices, [{ row: 'listed-rent', code: 'taxes' }])
  expect(lines[0]).toEqual({ code: 'rent', label: 'Rent', row: 'listed-rent-b', present: false })
})
