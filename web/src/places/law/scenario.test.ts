import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { changeOf, histogram, largest, saysTheSame, summed, withRange } from './scenario'
import { sampleFigure } from './sampleFigure'
const moved = (
  client: string,
  difference: string,
  more: Partial<Schemas['MovedReturn']> = {},
): Schemas['MovedReturn'] => ({
  returnId: 1,
  client,
  stage: 'open',
  filed: false,
  approved: false,
  before: '0',
  after: difference,
  difference,
  findingsAdded: 0,
  findingsGone: 0,
  ...more,
})

describe('a scenario of the law', () => {
  it('begins with a figure as it is', () => {
    expect(changeOf(sampleFigure({}))).toEqual({ figure: 'relief', value: '28,800', ranges: null })
    expect(changeOf(sampleFigure({ value: '15%' })).value).toBe('15')
    const bands = sampleFigure({
      rows: [
        { range: '0 to 288,000', value: '10%' },
        { range: 'above 288,000', value: '25%' },
      ],
    })
    const change = changeOf(bands)
    expect(change.ranges).toEqual([
      { upTo: '288,000', value: '10' },
      { upTo: '', value: '25' },
    ])
    expect(saysTheSame(change, bands)).toBe(true)
    expect(saysTheSame({ ...change, ranges: [] }, bands)).toBe(false)
    expect(withRange(change).ranges!.map((r) => r.value)).toEqual(['10', '', '25'])
    expect(changeOf(sampleFigure({ rows: [{ range: 'up to 1,200', value: '3,600' }] })).ranges![0]!.upTo).toBe('1,200')
  })

  it('sums exactly who pays more and who less', () => {
    const list = [
      moved('A', '0.1'),
      moved('B', '0.2', { filed: true }),
      moved('C', '-1000.35', { findingsAdded: 1 }),
      moved('D', '0', { findingsGone: 2, approved: true }),
    ]
    expect(summed(list)).toEqual({ more: 2, less: 1, filed: 1, approved: 1, findings: 2, together: '-1000.05' })
    expect(largest(list, 2).map((m) => m.client)).toEqual(['C', 'B'])
  })

  it('counts every return that moves in exactly one bar', () => {
    const list = ['-100', '-80', '-79.99', '-0.01', '0', '0.01', '20', '20.01', '100'].map((d) => moved('A', d))
    const bars = histogram(list)
    expect(bars.map((b) => b.count)).toEqual([1, 2, 0, 0, 1, 2, 1, 0, 0, 1])
    expect(bars.reduce((sum, b) => sum + b.count, 0)).toBe(8)
    expect([bars[0]!.from, bars.at(-1)!.to]).toEqual(['-100', '100'])
    expect(histogram([moved('A', '0')])).toEqual([])
  })
})
