import { describe, expect, it } from 'vitest'
import { findingSpot } from './findingWalk'
import type { Finding } from './returnStore'

const finding = (line: string | null, row: string | null = null, accepted = false) =>
  ({ lines: line ? [line] : [], row, acceptance: accepted ? {} : null }) as unknown as Finding

describe('going from finding to finding', () => {
  const findings = [
    finding('a'),
    finding(null),
    finding('list', 'r1'),
    finding('done', null, true),
    finding('b'),
    finding('a'),
    finding('list', 'r2'),
  ]
  const round = (by: 1 | -1, times: number) => {
    const visited: string[] = []
    let cursor = null
    for (let time = 0; time < times; time++) {
      cursor = findingSpot(findings, cursor, by)
      visited.push(`${cursor!.line}${cursor!.row ?? ''}`)
    }
    return visited
  }

  it('visits every place once and begins again, in either direction', () => {
    expect(round(1, 5)).toEqual(['a', 'listr1', 'b', 'listr2', 'a'])
    expect(round(-1, 5)).toEqual(['listr2', 'b', 'listr1', 'a', 'listr2'])
  })

  it('begins with the first, or the last, where the cursor stands on none', () => {
    expect(findingSpot(findings, { line: 'elsewhere', row: null }, 1)).toEqual({ line: 'a', row: null })
    expect(findingSpot(findings, { line: 'elsewhere', row: null }, -1)).toEqual({ line: 'list', row: 'r2' })
  })

  it('goes nowhere when nothing is left', () => {
    expect(findingSpot([finding('done', null, true), finding(null)], { line: 'a', row: null }, 1)).toBeNull()
  })
})
