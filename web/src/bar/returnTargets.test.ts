import { describe, expect, it } from 'vitest'
import type { ReturnStore } from '../return/returnStore'
import { returnTargets } from './returnTargets'
import { search } from './search'

const line = (key: string, label: string, from: string | null, more: object = {}) => ({
  key,
  number: '1.1',
  label,
  from,
  law: null,
  choices: null,
  ...more,
})
const choices = Array.from({ length: 13 }, (_, index) => ({ code: `C${index}`, label: `C${index} Kind ${index}` }))
const store = {
  layout: {
    forms: [
      {
        key: 'pay',
        title: 'Pay',
        sections: [
          {
            title: 'Employer',
            law: null,
            lines: [
              line('pay.basic', 'Basic pay', 'annual certificate, column A'),
              line('pay.house', 'House allowance', 'annual certificate, column B'),
              line('pay.code', 'Code', null, { choices }),
            ],
          },
        ],
      },
    ],
  },
  placeOf: (form: string) => `/fill/${form}`,
  placeOfLine: (key: string) => `/line/${key}`,
  pageOf: (form: object) => form,
} as unknown as ReturnStore

describe('places of a return', () => {
  it('are papers by name, once each, at their first line', () => {
    const papers = returnTargets(store).filter((t) => t.kind === 'paper')
    expect(papers.map((p) => [p.label, p.detail, p.to])).toEqual([
      ['Annual certificate', 'paper, copied on Pay', '/line/pay.basic'],
    ])
  })

  it('are found by paper and box, by line, and by code of a long list', () => {
    const labels = (typed: string) => search(returnTargets(store), typed, 5).map((t) => t.label)
    expect(labels('certificate column b')[0]).toBe('1.1 House allowance')
    expect(labels('annual cert')[0]).toBe('Annual certificate')
    expect(labels('kind 12')).toEqual(['C12 Kind 12'])
  })
})
