import type { Schemas } from '../../api/client'
import { day } from '../../shared/format'

/** The stages in the order in which a return goes through them; a rejected one has come back. */
export const STAGES = [
  { name: 'accepted', label: 'Accepted' },
  { name: 'sent', label: 'Sent' },
  { name: 'approved', label: 'Approved' },
  { name: 'waiting', label: 'Waiting for approval' },
  { name: 'open', label: 'Being filled' },
  { name: 'rejected', label: 'Rejected' },
] as const

/** A month with its returns by stage, each part as a share of the fullest month. */
export interface SeasonMonth {
  label: string
  total: number
  /** Of a month that is over, those that are not filed. */
  late: number
  parts: { name: string; label: string; count: number; width: number }[]
}

/** Every month between two days, also those in which nothing falls due between others; empty months before the first and after the last are left out. */
export function seasonMonths(stages: Schemas['SeasonStage'][], from: string, to: string, today: string): SeasonMonth[] {
  const months: string[] = []
  for (let at = new Date(`${from.slice(0, 7)}-01T00:00:00Z`); at.toISOString().slice(0, 7) <= to.slice(0, 7);) {
    months.push(at.toISOString().slice(0, 7))
    at.setUTCMonth(at.getUTCMonth() + 1)
  }
  const of = (month: string) => stages.filter((s) => s.month === month)
  const total = (month: string) => of(month).reduce((sum, s) => sum + s.returns, 0)
  const filedIn = (month: string) =>
    of(month)
      .filter((s) => s.stage === 'accepted' || s.stage === 'sent')
      .reduce((sum, s) => sum + s.returns, 0)
  const filled = months.filter(total)
  const most = Math.max(1, ...filled.map(total))
  return months.slice(months.indexOf(filled[0] ?? ''), months.indexOf(filled.at(-1) ?? '') + 1).map((month) => ({
    label: day(`${month}-01`).replace(/^1 /, ''),
    total: total(month),
    late: month < today.slice(0, 7) ? total(month) - filedIn(month) : 0,
    parts: STAGES.map((stage) => {
      const count = of(month).find((s) => s.stage === stage.name)?.returns ?? 0
      return { ...stage, count, width: (count / most) * 100 }
    }).filter((part) => part.count),
  }))
}
