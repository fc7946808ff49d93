import type { Schemas } from '../api/client'

export type Line = Schemas['LineLayout']
export type Section = Schemas['SectionLayout']
export type Form = Schemas['FormLayout']

/** A place on the page. */
export interface Spot {
  line: string
  row: string | null
}

export function placeKey(line: string, row: string | null | undefined): string {
  return `${line}|${row ?? ''}`
}

/** What a return consists of, and where on its pages each line stands. */
export class ReturnLayout {
  private readonly lines = new Map<string, { line: Line; form: Form; section: Section }>()

  constructor(
    readonly id: number,
    readonly layout: Schemas['Layout'],
  ) {
    for (const form of layout.forms)
      for (const section of form.sections)
        for (const line of section.lines) this.lines.set(line.key, { line, form, section })
  }

  lineOf(key: string): Line | undefined {
    return this.lines.get(key)?.line
  }

  formOf(lineKey: string): Form | undefined {
    return this.lines.get(lineKey)?.form
  }

  /** The section a line stands in. */
  sectionOf(lineKey: string): Section | undefined {
    return this.lines.get(lineKey)?.section
  }

  /** The repeating section with a key. */
  tableOf(key: string): Section {
    return this.layout.forms.flatMap((form) => form.sections).find((section) => section.table?.key === key)!
  }

  /** The form in whose parallel column another is shown, or the form itself. */
  pageOf(form: Form): Form {
    return form.beside ? this.layout.forms.find((f) => f.key === form.beside)! : form
  }

  placeOf(form: string): string {
    return form === this.layout.forms[0]!.key ? `/returns/${this.id}/scope` : `/returns/${this.id}/fill/${form}`
  }

  placeOfLine(line: string, row?: string | null): string {
    const form = this.formOf(line)
    if (!form) return `/returns/${this.id}/fill`
    const query = new URLSearchParams({ line })
    if (row) query.set('row', row)
    return `${this.placeOf(this.pageOf(form).key)}?${query}`
  }
}
