import type { Schemas } from '../api/client'
import { placeKey } from './returnLayout'

type Finding = Schemas['FindingView']

/** What is typed at a place, where the text itself could not be taken. */
interface Typed {
  unread?: boolean
  message?: string
}

/** Findings with those of texts that could not be read; the line of one is told as that and not as missing. */
export function withUnread(told: Finding[], drafts: Map<string, Typed>, formOf: (line: string) => string): Finding[] {
  const unread = [...drafts].filter(([, draft]) => draft.unread)
  if (!unread.length) return told
  const places = new Set(unread.map(([key]) => key))
  return [
    ...unread.map(([key, draft]) => {
      const [line = '', row = ''] = key.split('|')
      return {
        id: `${line}:unread`,
        severity: 'error' as const,
        message: draft.message ?? '',
        lines: [line],
        table: null,
        row: row || null,
        form: formOf(line),
        acceptance: null,
      }
    }),
    ...told.filter((f) => !f.id.endsWith(':missing') || !places.has(placeKey(f.lines[0]!, f.row))),
  ]
}
