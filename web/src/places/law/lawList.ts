import type { Schemas } from '../../api/client'

/** Which figures are listed: all, those nobody verified, those that are not certain, those that differ from the year beside, those the practice corrects or is to correct. */
export type Cut = 'all' | 'open' | 'unsure' | 'changed' | 'corrected'

const within: Record<Cut, (figure: Schemas['LawFigureView']) => boolean> = {
  all: () => true,
  open: (figure) => !figure.verification?.counts,
  unsure: (figure) => figure.confidence !== 'certain',
  changed: (figure) => figure.changed,
  corrected: (figure) => !!figure.correction || !!figure.proposed,
}

/** The groups with the figures of a cut in which every word typed occurs: in the name, the section, the value or a row; groups without any are left out. */
export function figuresShown(groups: Schemas['LawGroup'][], cut: Cut, typed: string): Schemas['LawGroup'][] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (figure: Schemas['LawFigureView']) => {
    const text = [
      figure.label,
      figure.source,
      figure.value,
      figure.note,
      ...figure.rows.map((r) => `${r.range} ${r.value}`),
    ]
      .join(' ')
      .toLowerCase()
    return words.every((word) => text.includes(word))
  }
  return groups
    .map((group) => ({ ...group, figures: group.figures.filter((figure) => within[cut](figure) && has(figure)) }))
    .filter((group) => group.figures.length)
}
