import type { Schemas } from '../../api/client'

/** A figure of the law for tests, with what matters given. */
export const sampleFigure = (more: Partial<Schemas['LawFigureView']>): Schemas['LawFigureView'] => ({
  key: 'relief',
  label: 'relief',
  value: '28,800',
  before: null,
  changed: false,
  source: 'Act s. 1',
  confidence: 'certain',
  note: null,
  rows: [],
  rowsBefore: [],
  curve: [],
  curveBefore: [],
  usedBy: [],
  findings: [],
  canVary: true,
  verification: null,
  correction: null,
  proposed: null,
  ...more,
})
