import { computed, nextTick, reactive, ref, shallowReactive, shallowRef } from 'vue'
import { api, call, Problem, type Schemas } from '../api/client'
import { isNumber, POINT, typedAs, writeNumbers } from '../shared/format'
import { EditQueue } from './editQueue'
import {
  addRowStep,
  duplicateStep,
  listedStep,
  moveStep,
  pasteStep,
  removeStep,
  setStep,
  type Change,
  type Now,
  type Step,
} from './editSteps'
import { importStep, type RowsThen } from './importStep'
import { LiveReturn } from './liveReturn'
import { withUnread } from './unread'
import { placeKey, ReturnLayout, type Form, type Line, type Section, type Spot } from './returnLayout'

export { placeKey, type Form, type Line, type Section, type Spot } from './returnLayout'
export type Finding = Schemas['FindingView']
export type Value = Schemas['ValueView']
export type Tie = Schemas['TieView']
export type Remark = Schemas['RemarkView']

/** What was typed into a line and has not become its value: on its way, refused, or overtaken by somebody else. */
export interface Draft {
  typed: string
  state: 'sending' | 'refused' | 'conflict'
  message?: string
  theirs?: string | null
  /** The text itself could not be taken: it is a finding until it is corrected. */
  unread?: boolean
}

/** One return as it is worked on: values, rows, findings; edits, undo, live changes of others. */
export class ReturnStore extends ReturnLayout implements Now {
  readonly view = shallowRef<Schemas['ReturnView']>(null!)
  readonly values = shallowReactive(new Map<string, Value>())
  readonly rows = shallowReactive(new Map<string, string[]>())
  readonly drafts = shallowReactive(new Map<string, Draft>())
  /** What the server finds. */
  private readonly told = shallowRef<Finding[]>([])
  /** Findings; a text that could not be read is told as that, and its line is not missing. */
  readonly findings = computed<Finding[]>({
    get: () => withUnread(this.told.value, this.drafts, (line) => this.formOf(line)?.key ?? ''),
    set: (told) => (this.told.value = told),
  })
  readonly ties = shallowRef<Map<string, Tie>>(new Map())
  readonly remarks = shallowRef<Remark[]>([])
  readonly progress = shallowRef<Schemas['FormProgress'][]>([])
  readonly openSections = shallowRef<Set<string>>(new Set())
  readonly outcome = shallowRef<Map<string, string>>(new Map())
  readonly revision = ref(0)
  readonly stage = ref('')
  readonly others = ref<string[]>([])
  readonly problem = ref('')
  readonly focus = shallowRef<Spot | null>(null)
  readonly statusTick = ref(0)
  readonly undone = ref('')
  /** What the practice did about figures of the law, by key of the figure; nothing before somebody looks at a derivation. */
  readonly lawMarks = shallowRef<Map<string, Schemas['LawMark']> | null>(null)
  readonly queue: EditQueue
  openingBalance = ''

  private readonly shownPages = reactive(new Map<string, string>())
  private readonly past: Step[] = []
  private readonly future: Step[] = []
  private readonly live: LiveReturn
  /** Tells the findings shown from others of the same revision. */
  private findingsStamp = 0

  readonly errors = computed(() => this.findings.value.filter((f) => f.severity === 'error').length)
  readonly warnings = computed(
    () => this.findings.value.filter((f) => f.severity === 'warning' && !f.acceptance).length,
  )

  readonly openRemarks = computed(() => this.remarks.value.filter((r) => !r.settledBy))

  private constructor(
    id: number,
    layout: Schemas['Layout'],
    view: Schemas['ReturnView'],
    private readonly me: Schemas['SessionPerson'],
  ) {
    super(id, layout)
    writeNumbers(view.numbers ?? POINT)
    this.queue = new EditQueue(
      id,
      me.id,
      (result, sent) => this.take(result, sent),
      (problem, sent) => this.refuse(problem, sent),
      () => void this.readAnew(),
    )
    this.live = this.listen()
    this.show(view)
    const key = `aerarium-opening-${id}`
    this.openingBalance = sessionStorage.getItem(key) ?? this.balance
    sessionStorage.setItem(key, this.openingBalance)
    for (const change of this.queue.unsent) this.draftOf(change)
    void this.queue.flush()
  }

  static async open(id: number, me: Schemas['SessionPerson']): Promise<ReturnStore> {
    const view = await call(api.GET('/api/returns/{id}', { params: { path: { id } } }))
    const [country = '', name = ''] = view.definition.split('/')
    const layout = await call(
      api.GET('/api/definitions/{country}/{name}/{year}', {
        params: { path: { country, name, year: view.year }, query: { period: view.period, law: view.lawEdition } },
      }),
    )
    const store = new ReturnStore(id, layout, view, me)
    void store.live.start()
    void store.loadRemarks()
    return store
  }

  get balance(): string {
    return this.outcome.value.get(this.layout.outcome.at(-1)!.line) ?? '0'
  }

  /** Whether this person cannot change the return now. */
  get locked(): boolean {
    return !this.me.mayPrepare || this.filed
  }

  /** Whether the authority has it, so that nobody can change it. */
  get filed(): boolean {
    return this.stage.value === 'sent' || this.stage.value === 'accepted'
  }

  valueOf(line: string, row: string | null): Value | undefined {
    return this.values.get(placeKey(line, row))
  }

  /** What was typed into a line: what is on its way to the server, or else what the server has. */
  said(line: string, row: string | null): string {
    const draft = this.drafts.get(placeKey(line, row))
    if (draft?.state === 'sending') return draft.typed
    const value = this.valueOf(line, row)
    const text = value?.value ?? ''
    const known = this.lineOf(line)
    return value?.expression ?? (known && isNumber(known) ? typedAs(text) : text)
  }

  rowsOf(section: string): string[] {
    return this.rows.get(section) ?? []
  }

  /** The rows within a page of a repeating section, by the sections they stand in. */
  within(section: Section, page: string): { section: Section; rows: string[] }[] {
    return section.table!.parts.flatMap((part) => {
      if (!part.rows) return []
      const inner = this.tableOf(part.rows)
      const of = inner.table!.ofPage!
      return [{ section: inner, rows: this.rowsOf(part.rows).filter((row) => this.said(of, row) === page) }]
    })
  }

  /** The page of a section that is shown: the one somebody turned to, otherwise the first. */
  pageShown(section: Section): string | undefined {
    const pages = this.rowsOf(section.table!.key)
    const turnedTo = this.shownPages.get(section.table!.key)
    return turnedTo && pages.includes(turnedTo) ? turnedTo : pages[0]
  }

  /** Turns to a page that repeats. */
  turnTo(section: Section, page: string) {
    this.shownPages.set(section.table!.key, page)
  }

  /** Turns to the page on which a place stands. */
  private reveal(spot: Spot) {
    const section = this.sectionOf(spot.line)
    if (!section?.table || !spot.row) return
    if (section.table.parts.length) this.turnTo(section, spot.row)
    if (section.table.ofPage) {
      const pages = this.tableOf(this.lineOf(section.table.ofPage)!.target!)
      this.turnTo(pages, this.said(section.table.ofPage, spot.row))
    }
  }

  /** The form shown in a parallel column of another, when any of it applies. */
  besideOf(form: Form): Form | undefined {
    return this.layout.forms.find((f) => f.beside === form.key && this.isOpen(f))
  }

  /** Whether any section of a form applies. */
  isOpen(form: Form): boolean {
    return form.sections.some((section) => this.openSections.value.has(section.key))
  }

  /** The forms that have a page of their own and apply, in working order. */
  get pages(): Form[] {
    return this.layout.forms.filter((form) => !form.beside && (this.isOpen(form) || this.besideOf(form)))
  }

  nameOfRow(section: Section, row: string): string {
    const label = section.table!.rowLabel
    const named = section.table!.namedBy ? this.valueOf(section.table!.namedBy, row)?.value : null
    const line = section.table!.namedBy ? this.lineOf(section.table!.namedBy) : undefined
    if (named && line?.kind === 'row') return this.nameOfTarget(line, named)
    if (named) return line?.choices?.find((choice) => choice.code === named)?.label ?? named
    const of = section.table!.ofPage
    const beside = this.rowsOf(section.table!.key).filter((r) => !of || this.said(of, r) === this.said(of, row))
    return `${label[0]!.toUpperCase()}${label.slice(1)} ${beside.indexOf(row) + 1}`
  }

  /** What a line that points at a row calls that row: its number, where rows have one, and its name. */
  nameOfTarget(line: Line, row: string): string {
    const section = this.tableOf(line.target!)
    return this.rowsOf(section.table!.key).includes(row) ? this.numberAndName(section, row) : row
  }

  private numberAndName(section: Section, row: string): string {
    const { knownBy, namedBy } = section.table!
    const number = knownBy && knownBy !== namedBy ? (this.valueOf(knownBy, row)?.value ?? '') : ''
    return `${number} ${this.nameOfRow(section, row)}`.trim()
  }

  /** What can be chosen on a line: the codes of its list, or the rows it can point at. */
  choicesOf(line: Line): readonly { code: string; label: string }[] {
    if (line.kind !== 'row') return line.choices ?? []
    const section = this.tableOf(line.target!)
    return this.rowsOf(line.target!).map((row) => ({ code: row, label: this.numberAndName(section, row) }))
  }

  /** Sets a line to what was typed; `seen` is the revision when typing began. */
  set(line: string, row: string | null, typed: string, seen: number) {
    this.do(setStep(this, [[row, line, typed]], seen))
  }

  /** Sets several cells as one step that is undone at once. */
  setMany(cells: [string | null, Line, string][]) {
    if (cells.length)
      this.do(
        setStep(
          this,
          cells.map(([row, line, typed]) => [row, line.key, typed]),
        ),
      )
  }

  /** Puts a block of typed texts into rows, from the first on; rows that are missing are added. One step. */
  pasteRows(section: Section, into: string[], block: [Line, string][][], page?: string) {
    const step = pasteStep(this, section, into, block, page)
    if (step.redo.length) this.do(step)
  }

  /** Removes several rows as one step. */
  removeRows(section: Section, rows: string[]) {
    const all = this.rowsOf(section.table!.key)
    const gone = rows.filter((row) => all.includes(row))
    this.do(removeStep(this, section, gone))
    this.undone.value = gone.length === 1 ? `${section.table!.rowLabel} removed.` : `${gone.length} rows removed.`
  }

  addRow(section: Section, after?: string, goThere = true, page?: string): string {
    const rows = this.rowsOf(section.table!.key)
    const { row, step } = addRowStep(this, section, after ? rows.indexOf(after) + 1 : rows.length, page)
    this.do(step)
    if (section.table!.parts.length) this.turnTo(section, row)
    const first = section.lines.find((line) => !line.computed && line.key !== section.table!.ofPage)
    if (first && goThere) void nextTick(() => this.goTo({ line: first.key, row }))
    return row
  }

  /** Takes what was typed beside a code that had no row yet. */
  addListed(section: Section, row: string, cells: [string, string][]) {
    this.do(listedStep(this, section, row, cells))
  }

  duplicateRow(section: Section, from: string) {
    const { row, step } = duplicateStep(this, section, from)
    this.do(step)
    if (section.table!.parts.length) this.turnTo(section, row)
  }

  removeRow(section: Section, row: string) {
    const name = this.nameOfRow(section, row)
    this.do(removeStep(this, section, [row]))
    this.undone.value = `${name} removed.`
  }

  /** Moves a row up or down among the rows shown with it. */
  moveRow(section: Section, row: string, by: number, among = this.rowsOf(section.table!.key)) {
    const to = among[among.indexOf(row) + by]
    if (to) this.do(moveStep(this, section, row, to))
  }

  undo() {
    const step = this.past.pop()
    if (!step) return
    this.undone.value = ''
    this.future.push(step)
    this.run(step.undo)
  }

  redo() {
    const step = this.future.pop()
    if (!step) return
    this.past.push(step)
    this.run(step.redo)
  }

  /** Notes that a file brought rows of a section, so that undo takes the whole file back as one step. */
  imported(section: Section, before: RowsThen, file: string) {
    this.past.push(importStep(this, section, before, file))
    this.future.length = 0
    this.undone.value = `${file} taken.`
  }

  /** Reads the remarks anew; what was told live meanwhile is newer. */
  async loadRemarks() {
    const before = this.remarks.value
    const read = await call(api.GET('/api/returns/{id}/remarks', { params: { path: { id: this.id } } }))
    if (this.remarks.value === before) this.remarks.value = read
  }

  /** The remarks on a line, oldest first. */
  remarksOn(line: string, row: string | null): Remark[] {
    return this.remarks.value.filter((r) => r.line === line && (r.row ?? null) === row)
  }

  /** In a conflict: keeps what the other person typed. */
  keepTheirs(line: string, row: string | null) {
    this.drafts.delete(placeKey(line, row))
  }

  /** In a conflict: takes what was typed here after all. */
  useMine(line: string, row: string | null) {
    const draft = this.drafts.get(placeKey(line, row))
    if (draft) this.set(line, row, draft.typed, this.revision.value)
  }

  /** Puts the cursor into a line, once it is on screen. */
  goTo(spot: Spot) {
    this.focus.value = spot
    this.reveal(spot)
    const grid = this.sectionOf(spot.line)?.table?.grid
    const find = (tries: number) => {
      if (grid) return
      const field = document.querySelector<HTMLElement>(`[data-place="${CSS.escape(placeKey(spot.line, spot.row))}"]`)
      if (field) {
        field.scrollIntoView({ block: 'center' })
        const input = field.matches('input, select, button')
          ? field
          : field.querySelector<HTMLElement>('input, select, button')
        ;(input ?? field).focus()
      } else if (tries > 0) requestAnimationFrame(() => find(tries - 1))
    }
    find(30)
  }

  async reload() {
    const view = await call(api.GET('/api/returns/{id}', { params: { path: { id: this.id } } }))
    // Of two readings under way, the older may arrive last; it must not undo what is newer.
    if (view.revision >= this.revision.value) this.show(view)
  }

  /** Reads the return anew when nobody asked for it; that it cannot be read is told on the page. */
  private async readAnew() {
    try {
      await this.reload()
    } catch (error) {
      this.problem.value = (error as Error).message
    }
  }

  /** Reads, once, what the practice did about figures of the law. */
  async askLawMarks() {
    if (this.lawMarks.value) return
    this.lawMarks.value = new Map()
    try {
      const marks = await call(api.GET('/api/returns/{id}/law/marks', { params: { path: { id: this.id } } }))
      this.lawMarks.value = new Map(marks.map((mark) => [mark.figure, mark]))
    } catch (error) {
      this.problem.value = (error as Error).message
    }
  }

  async close() {
    writeNumbers(POINT)
    this.queue.stop()
    await this.live.stop()
  }

  /** Takes what the returns say that a line is tied to, whatever was typed over it. */
  async takeTied(line: string) {
    this.apply(
      await call(api.POST('/api/returns/{id}/lines/{line}/take-tied', { params: { path: { id: this.id, line } } })),
    )
  }

  /** Takes the result of an act that changed the return beside the edit queue. */
  takeResult(result: Schemas['EditResult']) {
    this.apply(result)
  }

  private do(step: Step) {
    this.past.push(step)
    this.future.length = 0
    this.run(step.redo)
  }

  private run(what: Change[] | (() => Promise<unknown>)) {
    if (Array.isArray(what)) this.send(what)
    else what().catch((error: Error) => (this.problem.value = error.message))
  }

  private send(changes: Change[]) {
    this.problem.value = ''
    for (const change of changes) this.draftOf(change)
    this.queue.push(changes)
  }

  private draftOf(change: Change) {
    if (change.kind === 'set')
      this.drafts.set(placeKey(change.line!, change.row), { typed: change.value ?? '', state: 'sending' })
  }

  private take(result: Schemas['EditResult'], sent: Change[]) {
    const waiting = new Set(this.queue.unsent.filter((c) => c.kind === 'set').map((c) => placeKey(c.line!, c.row)))
    this.apply(result)
    for (const change of sent) {
      const key = change.kind === 'set' ? placeKey(change.line!, change.row) : ''
      if (key && !waiting.has(key)) this.drafts.delete(key)
    }
    for (const refusal of result.refusals)
      this.drafts.set(placeKey(refusal.line, refusal.row), {
        typed: refusal.typed ?? '',
        state: 'refused',
        message: refusal.message,
        unread: true,
      })
    for (const conflict of result.conflicts)
      this.drafts.set(placeKey(conflict.line, conflict.row), {
        typed: conflict.mine ?? '',
        state: 'conflict',
        theirs: conflict.theirs,
        message: `${conflict.person} changed this line at ${conflict.at.slice(11, 16)}.`,
      })
  }

  private refuse(problem: Problem, sent: Change[]) {
    this.problem.value = problem.message
    for (const change of sent) {
      if (change.kind !== 'set') continue
      this.drafts.set(placeKey(change.line!, change.row), {
        typed: change.value ?? '',
        state: 'refused',
        message: problem.message,
      })
    }
  }

  private apply(result: Schemas['EditResult']) {
    // It tells of a state before the one that is shown: the whole return was read anew in between.
    if (result.revision < this.revision.value) return
    for (const value of result.values) this.values.set(placeKey(value.line, value.row), value)
    for (const rows of result.rows) this.rows.set(rows.section, rows.rows)
    if (result.revision === this.revision.value) return
    if (result.findings.since !== this.revision.value || result.findings.from !== this.findingsStamp) {
      void this.readAnew()
      return
    }
    this.revision.value = result.revision
    this.stage.value = result.stage
    const { head, now, end } = result.findings
    const before = this.told.value
    if (now.length || head + end !== before.length)
      this.findings.value = [...before.slice(0, head), ...now, ...before.slice(before.length - end)]
    this.findingsStamp = result.findings.stamp
    this.showSummary(result)
  }

  /** Takes over what has changed of progress, sections and Outcome; what is the same stays, so that nothing is drawn again for it. */
  private showSummary(now: Pick<Schemas['EditResult'], 'progress' | 'openSections' | 'outcome' | 'ties'>) {
    const same = (left: unknown, right: unknown) => JSON.stringify(left) === JSON.stringify(right)
    if (!same(this.progress.value, now.progress)) this.progress.value = now.progress
    if (!same([...this.openSections.value], now.openSections)) this.openSections.value = new Set(now.openSections)
    this.showTies(now.ties)
    this.outcome.value = new Map(now.outcome.map((o) => [o.line, o.amount]))
  }

  private showTies(ties: Tie[]) {
    if (JSON.stringify([...this.ties.value.values()]) !== JSON.stringify(ties))
      this.ties.value = new Map(ties.map((t) => [t.line, t]))
  }

  /** Takes findings that changed without an edit: one was accepted, or a return this one is tied to says something else. */
  takeFindings(view: Schemas['FindingsView']) {
    // Those of a state before the one that is shown; the edit that led to it has told of them.
    if (view.revision < this.revision.value) return
    this.findings.value = view.findings
    this.findingsStamp = view.stamp
    this.showTies(view.ties)
  }

  private show(view: Schemas['ReturnView']) {
    // The law it is computed by has become another, and with it labels and limits: the page begins anew. What is typed and not saved is kept.
    if (this.view.value && this.view.value.lawEdition !== view.lawEdition) {
      window.location.reload()
      return
    }
    this.view.value = view
    this.values.clear()
    for (const value of view.values) this.values.set(placeKey(value.line, value.row), value)
    this.rows.clear()
    for (const rows of view.rows) this.rows.set(rows.section, rows.rows)
    this.revision.value = view.revision
    this.stage.value = view.stage
    this.findings.value = view.findings
    this.findingsStamp = view.findingsStamp
    this.showSummary(view)
  }

  private listen(): LiveReturn {
    return new LiveReturn(this.id, {
      changed: (result) => this.apply(result),
      findings: (view) => this.takeFindings(view),
      remarks: (remarks) => (this.remarks.value = remarks),
      presence: (names) => (this.others.value = names.filter((name) => name !== this.me.name)),
      status: () => void this.readAnew().then(() => this.statusTick.value++),
      listening: (connection, revision) => {
        this.queue.connection = connection // What was said, and changed by others, between opening the return and listening:
        void this.loadRemarks()
        // An edit of this page under way tells by its answer.
        if (revision > this.revision.value && !this.queue.waiting.value) void this.readAnew()
      },
      back: async (connection) => {
        this.queue.connection = connection
        await this.queue.flush()
        await Promise.all([this.readAnew(), this.loadRemarks()])
        this.statusTick.value++
      },
    })
  }
}
