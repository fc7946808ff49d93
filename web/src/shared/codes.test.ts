import { describe, expect, it } from 'vitest'
import { findCodes, meantCode } from './codes'

const codes = [
  { code: 'WI010', label: 'WI010 Professional fees, up to 3 million' },
  { code: 'WI011', label: 'WI011 Professional fees, above 3 million' },
  { code: 'WI120', label: 'WI120 Contractors' },
  { code: 'other', label: 'Another code' },
]

describe('codes', () => {
  it('are found by any word of the label or part of the number', () => {
    expect(findCodes(codes, 'fees prof').map((c) => c.code)).toEqual(['WI010', 'WI011'])
    expect(findCodes(codes, '12').map((c) => c.code)).toEqual(['WI120'])
    expect(findCodes(codes, 'fees above').map((c) => c.code)).toEqual(['WI011'])
    expect(findCodes(codes, 'tractors')).toEqual([])
  })

  it('are meant when one alone has all the words; anything else stays as it was typed', () => {
    expect(meantCode(codes, 'wi010')).toBe('WI010')
    expect(meantCode(codes, 'contr')).toBe('WI120')
    expect(meantCode(codes, 'fees')).toBe('fees')
    expect(meantCode(codes, 'rope')).toBe('rope')
    expect(meantCode(codes, '')).toBe('')
  })
})
