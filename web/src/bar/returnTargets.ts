import type { ReturnStore } from '../return/returnStore'
import type { Target } from './search'

/** A list of codes longer than this is found code by code. */
const MANY_CODES = 12

/** The paper a line is copied from, without its box: 'certificate of interest, box 3' is the certificate of interest. */
const paperOf = (from: string): string => from.split(',')[0]!.trim()

/** Everything in a return one can go to: its pages, its lines, the papers they are copied from, the codes of long lists. */
export function returnTargets(store: ReturnStore): Target[] {
  const papers = new Map<string, { forms: Set<string>; to: string }>()
  for (const form of store.layout.forms)
    for (const line of form.sections.flatMap((section) => section.lines)) {
      if (!line.from) continue
      const paper = paperOf(line.from)
      const known = papers.get(paper) ?? { forms: new Set(), to: store.placeOfLine(line.key) }
      known.forms.add(form.title)
      papers.set(paper, known)
    }
  return [
    ...[...papers].map(([paper, { forms, to }]) => ({
      kind: 'paper',
      label: paper.charAt(0).toUpperCase() + paper.slice(1),
      detail: `paper, copied on ${[...forms].join(', ')}`,
      words: paper,
      to,
    })),
    ...store.layout.forms.flatMap((form) => [
      { kind: 'form', label: form.title, detail: 'form', words: form.title, to: store.placeOf(form.key) },
      ...form.sections.flatMap((section) =>
        section.lines.map((line) => ({
          kind: 'line',
          label: `${line.number} ${line.label}`,
          detail: [form.title, line.law ?? section.law].filter(Boolean).join(', '),
          words: `${line.number} ${line.label} ${form.title} ${section.title} ${line.law ?? ''} ${section.law ?? ''} ${line.from ?? ''}`,
          to: store.placeOfLine(line.key),
        })),
      ),
      ...form.sections.flatMap((section) =>
        section.lines
          .filter((line) => (line.choices?.length ?? 0) > MANY_CODES)
          .flatMap((line) =>
            line.choices!.map((choice) => ({
              kind: 'code',
              label: choice.label,
              detail: `${form.title}, ${line.label}`,
              words: `${choice.code} ${choice.label}`,
              to: store.placeOf(store.pageOf(form).key),
            })),
          ),
      ),
    ]),
  ]
}
