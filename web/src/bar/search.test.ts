import { describe, expect, it } from 'vitest'
import { search, type Target } from './search'

const target = (words: string): Target => ({ kind: 'line', label: words, detail: '', words, to: `/${words}` })
const targets = [
  target('3.22 Interest allowed Deductions ITA s. 15(3)(b)'),
  target('4.13 Insurance relief Tax ITA s. 31'),
  target('Njeri Halvorsen Oduya A001100210N'),
]
const found = (typed: string) => search(targets, typed, 5).map((t) => t.label)

describe('going to a place', () => {
  it('takes words in any order', () => expect(found('allowed interest')).toEqual([targets[0]!.label]))
  it('takes beginnings of words', () => expect(found('insur rel')).toEqual([targets[1]!.label]))
  it('takes statutory references', () => expect(found('15(3)(b)')).toEqual([targets[0]!.label]))
  it('takes identifiers', () => expect(found('a0011002')).toEqual([targets[2]!.label]))
  it.each(['intrest', 'interesst', 'interest', 'imterest'])('tolerates the typo %s', (typed) =>
    expect(found(typed)).toEqual([targets[0]!.label]),
  )
  it('wants every word', () => expect(found('interest njeri')).toEqual([]))
  it('finds nothing for nothing', () => expect(found('  ')).toEqual([]))
})
