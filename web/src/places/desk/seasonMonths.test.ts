import { expect, test } from 'vitest'
import { seasonMonths } from './seasonMonths'

const stages = [
  { month: '2026-04', stage: 'accepted', returns: 6 },
  { month: '2026-04', stage: 'open', returns: 2 },
  { month: '2026-06', stage: 'waiting', returns: 4 },
]

test('months run from the first with returns to the last, those between included', () => {
  const months = seasonMonths(stages, '2025-07-01', '2026-12-31', '2026-06-18')
  expect(months.map((m) => [m.label, m.total, m.late])).toEqual([
    ['Apr 2026', 8, 2],
    ['May 2026', 0, 0],
    ['Jun 2026', 4, 0],
  ])
})

test('parts are shares of the fullest month, accepted ones first', () => {
  const [april, , june] = seasonMonths(stages, '2025-07-01', '2026-12-31', '2026-06-18')
  expect(april!.parts.map((p) => [p.name, p.count, p.width])).toEqual([
    ['accepted', 6, 75],
    ['open', 2, 25],
  ])
  expect(june!.parts.map((p) => [p.label, p.width])).toEqual([['Waiting for approval', 50]])
})

test('a season without returns has no months', () => {
  expect(seasonMonths([], '2025-07-01', '2026-12-31', '2026-06-18')).toEqual([])
})
