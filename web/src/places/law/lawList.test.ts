import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { figuresShown } from './lawList'
import { sampleFigure } from './sampleFigure'

const figure = (label: string, more: Partial<Schemas['LawFigureView']> = {}) =>
  sampleFigure({ key: label, label, value: '1', ...more })
const mark = { against: '', sourceDay: null, by: '', at: '', page: null, confirmedBy: null, counts: true, was: '' }
const groups = [
  {
    title: 'Tax',
    figures: [
      figure('tariff', { rows: [{ range: 'up to 12,096', value: 'nothing' }], changed: true }),
      figure('limit', { verification: mark }),
    ],
  },
  {
    title: 'Days',
    figures: [
      figure('late month', { confidence: 'unsure', source: 'Code s. 152', verification: { ...mark, counts: false } }),
    ],
  },
]
const names = (...asked: Parameters<typeof figuresShown> extends [unknown, ...infer Rest] ? Rest : never) =>
  figuresShown(groups, ...asked).map((g) => [g.title, ...g.figures.map((f) => f.label)])

describe('figures of the law that are listed', () => {
  it('are all, or those of a cut; a mark that no longer counts is none', () => {
    expect(names('all', '')).toEqual([
      ['Tax', 'tariff', 'limit'],
      ['Days', 'late month'],
    ])
    expect(names('open', '')).toEqual([
      ['Tax', 'tariff'],
      ['Days', 'late month'],
    ])
    expect(names('unsure', '')).toEqual([['Days', 'late month']])
    expect(names('changed', '')).toEqual([['Tax', 'tariff']])
  })
  it('have every word typed, in name, section, value or a row', () => {
    expect(names('all', 'LATE 152')).toEqual([['Days', 'late month']])
    expect(names('all', '12,096')).toEqual([['Tax', 'tariff']])
    expect(names('all', 'late tariff')).toEqual([])
  })
})
