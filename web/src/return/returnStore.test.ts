import { rowsNow } from './importStep'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { Problem } from '../api/client'
import { ReturnStore, type Finding, type Section } from './returnStore'

const server = vi.hoisted(() => ({
  sent: [] as unknown[][],
  posted: [] as [string, object][],
  remarks: [] as object[],
  view: null as object | null,
  joinedAt: 10,
  answer: null as unknown as (changes: never[]) => unknown,
  live: {} as Record<string, (...args: never[]) => Promise<void>>,
}))
const kept = new Map<string, string>()
const storage = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
}
vi.stubGlobal('localStorage', storage)
vi.stubGlobal('sessionStorage', storage)
vi.stubGlobal('CSS', { escape: (text: string) => text })

vi.mock('../api/client', async (original) => ({
  ...(await original<typeof import('../api/client')>()),
  call: async (pending: unknown) => pending,
  api: {
    GET: (path: string) =>
      path.startsWith('/api/definitions')
        ? layout()
        : path.endsWith('/remarks')
          ? server.remarks
          : (server.view ?? view()),
    POST: (path: string, options: { body: object }) => {
      server.posted.push([path, options.body])
      return server.answer([])
    },
    PATCH: (_: string, options: { body: { changes: never[] } }) => {
      server.sent.push(options.body.changes)
      return server.answer(options.body.changes)
    },
  },
}))
vi.mock('@microsoft/signalr', () => ({
  LogLevel: { None: 0 },
  HubConnectionState: { Disconnected: 'Disconnected' },
  HubConnectionBuilder: class {
    withUrl = () => this
    withAutomaticReconnect = () => this
    configureLogging = () => this
    build = () => ({
      on: (name: string, handler: never) => (server.live[name] = handler),
      onreconnected: () => {},
      onclose: () => {},
      start: async () => {},
      stop: async () => {},
      invoke: async () => server.joinedAt,
      connectionId: 'c1',
    })
  },
}))

const line = (key: string, computed = false) => ({
  key,
  name: key.split('.').at(-1),
  number: '1.1',
  label: key,
  kind: 'money',
  computed,
  rule: 'none',
})
const section = (number: number, lines: unknown[], table: unknown = null) => ({
  key: `section-${number}`,
  title: `Section ${number}`,
  law: null,
  when: null,
  table,
  lines,
})

function layout() {
  return {
    id: 'ke/employment-income',
    forms: [
      { key: 'scope', title: 'Scope', about: '', number: 0, sections: [section(0, [line('scope.car')])] },
      {
        key: 'form',
        title: 'Form',
        about: '',
        number: 1,
        sections: [
          section(1, [line('form.paid'), line('form.balance', true)]),
          section(2, [line('form.rows.cost')], {
            key: 'form.rows',
            rowLabel: 'car',
            namedBy: null,
            parts: [],
            ofPage: null,
          }),
        ],
      },
    ],
    outcome: [{ label: 'Balance', line: 'form.balance', sign: '=' }],
    gatherForms: ['form'],
  } as unknown as Schemas['Layout']
}

/** Two shops, a page each, with two assets within the first and one within the second. */
function withPages(store: ReturnStore): [Section, Section] {
  const parts = [
    { title: 'Shop', law: null, lines: ['form.shops.name'], rows: null },
    { title: 'Assets', law: null, lines: [], rows: 'form.assets' },
  ]
  const pages = section(3, [line('form.shops.name')], {
    key: 'form.shops',
    rowLabel: 'shop',
    namedBy: null,
    parts,
    ofPage: null,
  })
  const assets = [{ ...line('form.assets.of'), target: 'form.shops' }, line('form.assets.worth')]
  const within = section(4, assets, {
    key: 'form.assets',
    rowLabel: 'asset',
    namedBy: null,
    parts: [],
    ofPage: 'form.assets.of',
  })
  const form = store.layout.forms[1]! as unknown as { sections: unknown[] }
  form.sections.push(pages, within)
  for (const part of [pages, within])
    for (const one of part.lines as { key: string }[])
      (store as unknown as { lines: Map<string, object> }).lines.set(one.key, { line: one, form, section: part })
  store.rows.set('form.shops', ['p', 'q'])
  store.rows.set('form.assets', ['x', 'y', 'z'])
  for (const [key, row, text] of [
    ['form.shops.name', 'q', 'Quay'],
    ['form.assets.of', 'x', 'p'],
    ['form.assets.of', 'y', 'q'],
    ['form.assets.of', 'z', 'p'],
    ['form.assets.worth', 'y', '8'],
  ] as const)
    store.values.set(`${key}|${row}`, { line: key, row, value: text, open: true } as never)
  return [pages as unknown as Section, within as unknown as Section]
}

const value = (lineKey: string, text: string | null, row: string | null = null) => ({
  line: lineKey,
  row,
  value: text,
  open: true,
})

function view(): Schemas['ReturnView'] {
  return {
    id: 4,
    definition: 'ke/employment-income',
    year: 2025,
    revision: 10,
    stage: 'open',
    deadlines: [],
    rows: [{ section: 'form.rows', rows: ['a', 'b'] }],
    values: [
      value('form.paid', '100'),
      value('form.balance', '900'),
      value('form.rows.cost', '7', 'a'),
      value('form.rows.cost', '8', 'b'),
    ],
    findings: [],
    findingsStamp: 1,
    inHousehold: false,
    progress: [],
    openSections: ['section-0', 'section-1', 'section-2'],
    ties: [],
    outcome: [{ line: 'form.balance', amount: '900' }],
  } as unknown as Schemas['ReturnView']
}

function result(more: Partial<Schemas['EditResult']> = {}): Schemas['EditResult'] {
  return {
    returnId: 4,
    revision: 11,
    stage: 'open',
    person: 'Rukia',
    savedAt: '2026-06-18T14:06:00.000Z',
    values: [],
    rows: [],
    findings: { since: (more.revision ?? 11) - 1, from: 1, head: 0, now: [], end: 0, stamp: 1 },
    progress: [],
    openSections: ['section-0', 'section-1', 'section-2'],
    ties: [],
    outcome: [{ line: 'form.balance', amount: '900' }],
    refusals: [],
    conflicts: [],
    ...more,
  } as Schemas['EditResult']
}

const settled = () => new Promise((resolve) => setTimeout(resolve))
const rows = (store: ReturnStore) => store.layout.forms[1]!.sections[1] as Section

const me = {
  id: 1,
  name: 'Rukia',
  roles: ['preparer'],
  mayPrepare: true,
  mayApprove: false,
  mayManage: false,
  mayAdminister: false,
}

describe('a return as it is worked on', () => {
  let store: ReturnStore

  beforeEach(async () => {
    kept.clear()
    server.sent = []
    server.posted = []
    server.remarks = []
    server.view = null
    server.joinedAt = 10
    server.answer = () => result()
    store = await ReturnStore.open(4, me)
    await settled()
  })

  it('shows what the server answers to an edit, and the movement since opening', async () => {
    server.answer = () =>
      result({
        values: [value('form.paid', '300'), value('form.balance', '700')] as never,
        ties: [],
        outcome: [{ line: 'form.balance', amount: '700' }],
      })
    store.set('form.paid', null, '300', 10)
    expect(store.drafts.get('form.paid|')).toMatchObject({ typed: '300', state: 'sending' })
    await settled()
    expect(store.drafts.size).toBe(0)
    expect(store.valueOf('form.balance', null)?.value).toBe('700')
    expect([store.openingBalance, store.balance, store.revision.value]).toEqual(['900', '700', 11])
  })

  it('undoes and redoes across lines, newest first', async () => {
    store.set('form.paid', null, '1', 10)
    await settled()
    store.set('form.rows.cost', 'a', '2', 10)
    await settled()
    store.undo()
    store.undo()
    store.undo()
    store.redo()
    await settled()
    const values = server.sent.flat().map((c) => [(c as { line: string }).line, (c as { value: string }).value])
    expect(values).toEqual([
      ['form.paid', '1'],
      ['form.rows.cost', '2'],
      ['form.rows.cost', '7'],
      ['form.paid', '100'],
      ['form.paid', '1'],
    ])
  })

  it('goes back to what was typed before, though the server does not have that yet', async () => {
    store.set('form.paid', null, '1', 10)
    store.set('form.paid', null, '2', 10)
    expect(store.said('form.paid', null)).toBe('2')
    store.undo()
    store.undo()
    expect(store.said('form.paid', null)).toBe('100')
    store.set('form.rows.cost', 'a', '70', 10)
    store.duplicateRow(rows(store), 'a')
    await settled()
    const values = server.sent.flat().map((c) => (c as { value: string }).value)
    expect(values).toEqual(['1', '2', '1', '100', '70', null, '70'])
  })

  it('goes by what the server has where a text was refused', async () => {
    server.answer = () => result({ refusals: [{ line: 'form.paid', row: null, typed: 'x', message: 'not an amount' }] })
    store.set('form.paid', null, 'x', 10)
    await settled()
    expect(store.said('form.paid', null)).toBe('100')
  })

  it('pastes a block over rows and adds those that are missing, as one step', async () => {
    const cost = store.lineOf('form.rows.cost')!
    store.pasteRows(rows(store), ['b'], [[[cost, '80']], [[cost, '90']], [[cost, '']]])
    await settled()
    store.undo()
    await settled()
    const [done, undone] = server.sent as Schemas['EntryChange'][][]
    expect(done!.map((c) => [c.kind, c.value])).toEqual([
      ['set', '80'],
      ['add-row', null],
      ['set', '90'],
      ['add-row', null],
    ])
    expect(undone!.map((c) => [c.kind, c.value])).toEqual([
      ['set', '8'],
      ['remove-row', null],
      ['remove-row', null],
    ])
    expect(undone![1]!.row).toBe(done![1]!.row)
  })

  it('removes several rows as one step, and brings them back where they were', async () => {
    store.removeRows(rows(store), ['a', 'b', 'gone'])
    expect(store.undone.value).toBe('2 rows removed.')
    store.undo()
    await settled()
    const changes = server.sent.flat() as Schemas['EntryChange'][]
    expect(changes.map((c) => [c.kind, c.row, c.position])).toEqual([
      ['remove-row', 'a', null],
      ['remove-row', 'b', null],
      ['add-row', 'a', 0],
      ['add-row', 'b', 1],
    ])
  })

  it('takes a whole file back as one step, and again', async () => {
    const section = rows(store)
    const none = new Map<string, Schemas['CellTakenBack']>()
    store.rows.set('form.rows', ['f1-2', 'f1-3'])
    store.imported(section, { rows: ['a', 'b'], cells: none }, 'certificates.csv')
    store.undo()
    await settled()
    store.redo()
    await settled()
    expect(server.posted.map(([path, body]) => [path.split('/').at(-1), body])).toEqual([
      [
        'take-back',
        { remove: ['f1-2', 'f1-3'], restore: ['a', 'b'], cells: [], words: 'certificates.csv, taken back' },
      ],
      [
        'take-back',
        { remove: ['a', 'b'], restore: ['f1-2', 'f1-3'], cells: [], words: 'certificates.csv, taken again' },
      ],
    ])
    expect(server.sent).toEqual([])
  })

  it('takes back the cells a file changed in rows that stay', async () => {
    const section = rows(store)
    const before = rowsNow(store, section)
    const [row, line] = [before.rows[0]!, section.lines.find((l) => !l.computed)!.key]
    before.cells.set(`${row} ${line}`, { row, line, value: 'as it was' })
    store.imported(section, before, 'accounts.csv')
    store.undo()
    await settled()
    expect(server.posted[0]![1]).toMatchObject({ remove: [], restore: [], cells: [{ row, line, value: 'as it was' }] })
  })

  it('sets an override and its reason as one step', async () => {
    const at = (key: string) => store.lineOf(key)!
    store.setMany([
      [null, at('form.paid'), '0'],
      [null, at('scope.car'), 'abated'],
    ])
    await settled()
    expect(server.sent.flat()).toMatchObject([
      { line: 'form.paid', row: null, value: '0' },
      { line: 'scope.car', row: null, value: 'abated' },
    ])
    store.undo()
    await settled()
    expect(server.sent.flat().slice(2)).toMatchObject([{ value: '100' }, { value: '' }])
  })

  it('keeps remarks by line and row, live', async () => {
    const remark = (line: string, row: string | null, settledBy: string | null) => ({
      line,
      row,
      words: 'Why?',
      person: 'Pia',
      at: '2026-06-18T14:06:00Z',
      settledBy,
    })
    const list = [
      remark('form.paid', null, null),
      remark('form.rows.cost', 'a', 'Rukia'),
      remark('form.paid', null, 'Pia'),
    ]
    await server.live.remarks!(5 as never, [] as never)
    await server.live.remarks!(4 as never, list as never)
    expect(store.remarksOn('form.paid', null)).toHaveLength(2)
    expect(store.remarksOn('form.rows.cost', 'b')).toHaveLength(0)
    expect(store.openRemarks.value).toEqual([list[0]])
  })

  it('keeps a remark that is told while the remarks are read', async () => {
    const said = [{ line: 'form.paid', row: null, words: 'A late invoice', person: 'Pia', at: '', settledBy: null }]
    const reading = store.loadRemarks()
    await server.live.remarks!(4 as never, said as never)
    await reading
    expect(store.remarksOn('form.paid', null)).toHaveLength(1)
  })

  it('forgets what was undone when something new is typed', async () => {
    store.set('form.paid', null, '1', 10)
    store.undo()
    store.set('form.paid', null, '2', 10)
    await settled()
    const before = server.sent.flat().length
    store.redo()
    await settled()
    expect(server.sent.flat().length).toBe(before)
  })

  it('keeps a refused text with its message', async () => {
    server.answer = () => result({ refusals: [{ line: 'form.paid', row: null, typed: 'x', message: 'not an amount' }] })
    store.set('form.paid', null, 'x', 10)
    await settled()
    expect(store.drafts.get('form.paid|')).toMatchObject({ typed: 'x', state: 'refused', message: 'not an amount' })
  })

  it('shows a conflict, and takes mine on demand with the revision of now', async () => {
    const conflict = {
      line: 'form.paid',
      row: null,
      mine: '9',
      theirs: '10',
      person: 'Pia',
      at: '2026-06-18T14:06:00Z',
    }
    server.answer = () =>
      result({
        revision: 15,
        conflicts: [conflict],
        findings: { since: 10, from: 1, head: 0, now: [], end: 0, stamp: 1 },
      })
    store.set('form.paid', null, '9', 10)
    await settled()
    expect(store.drafts.get('form.paid|')).toMatchObject({ state: 'conflict', theirs: '10', typed: '9' })
    server.answer = () => result({ revision: 16 })
    store.useMine('form.paid', null)
    await settled()
    expect(server.sent.at(-1)).toMatchObject([{ value: '9', seen: 15 }])
    expect(store.drafts.size).toBe(0)
  })

  it('tells a text that could not be read as that, and its line not as missing', async () => {
    const finding = (id: string, line: string) => ({ id, lines: [line], row: null, severity: 'error' }) as Finding
    const [missing, other] = [finding('form.paid:missing', 'form.paid'), finding('form.more:missing', 'form.more')]
    store.findings.value = [missing!, other!]
    server.answer = () =>
      result({
        findings: { since: 10, from: 1, head: 2, now: [], end: 0, stamp: 1 },
        refusals: [{ line: 'form.paid', row: null, typed: '12x', message: "Paid: '12x' is not an amount." }],
      })
    store.set('form.paid', null, '12x', 10)
    await settled()
    expect(store.findings.value).toMatchObject([
      { id: 'form.paid:unread', message: "Paid: '12x' is not an amount.", lines: ['form.paid'], severity: 'error' },
      { id: 'form.more:missing' },
    ])
    expect(store.errors.value).toBe(2)
    store.drafts.delete('form.paid|')
    expect(store.findings.value).toEqual([missing, other])
  })

  it('takes over what changed of the findings, and keeps the others as they are', async () => {
    const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((id) => ({ id, message: id }) as Finding)
    store.findings.value = [a!, b!, c!]
    await server.live.changed!(
      result({ findings: { since: 10, from: 1, head: 1, now: [d!], end: 1, stamp: 2 } }) as never,
    )
    expect(store.findings.value.map((f) => f.id)).toEqual(['a', 'd', 'c'])
    expect(store.findings.value[2]).toBe(c)
    await server.live.changed!(
      result({ findings: { since: 10, from: 1, head: 0, now: [], end: 0, stamp: 1 } }) as never,
    )
    expect(store.findings.value).toHaveLength(3)
    const tie = { line: 'form.paid', value: '5', sources: [], missing: [] }
    await server.live.findings!(4 as never, { revision: 11, findings: [a], stamp: 3, ties: [tie] } as never)
    expect(store.findings.value).toEqual([a])
    expect(store.ties.value.get('form.paid')).toEqual(tie)
  })

  it('reads the return anew when its findings changed without a revision that it was not told of', async () => {
    server.view = { ...view(), revision: 11, findings: [{ id: 'tied' } as Finding], findingsStamp: 9 }
    await server.live.changed!(
      result({ findings: { since: 10, from: 7, head: 0, now: [], end: 0, stamp: 8 } }) as never,
    )
    await settled()
    expect(store.findings.value).toMatchObject([{ id: 'tied' }])
    await server.live.changed!(
      result({ revision: 12, findings: { since: 11, from: 9, head: 1, now: [], end: 0, stamp: 9 } }) as never,
    )
    expect(store.revision.value).toBe(12)
  })

  it('reads the return anew when it missed a change in between', async () => {
    server.view = { ...view(), revision: 20, findings: [{ id: 'late' } as Finding] }
    await server.live.changed!(result({ revision: 20 }) as never)
    await settled()
    expect(store.revision.value).toBe(20)
    expect(store.findings.value).toMatchObject([{ id: 'late' }])
  })

  it('reads the return anew when somebody changed it before this page listened', async () => {
    server.joinedAt = 13
    const opening = ReturnStore.open(4, me)
    server.view = { ...view(), revision: 13 }
    const late = await opening
    await settled()
    expect(late.revision.value).toBe(13)
    await late.close()
  })

  it('shows the newer of two readings, though the older arrives last', async () => {
    let arrive: (view: object) => void = () => {}
    server.view = new Promise((resolve) => (arrive = resolve))
    const older = store.reload()
    server.view = {
      ...view(),
      revision: 12,
      openSections: ['section-0', 'section-1'],
      values: [value('form.paid', '300')],
    }
    await store.reload()
    arrive({ ...view(), revision: 11 })
    await older
    expect(store.revision.value).toBe(12)
    expect([...store.openSections.value]).toEqual(['section-0', 'section-1'])
    expect(store.valueOf('form.paid', null)?.value).toBe('300')
  })

  it('does not go back to an answer or to findings of before what it shows', async () => {
    server.view = { ...view(), revision: 12, values: [value('form.paid', '300')], findings: [{ id: 'now' }] }
    await store.reload()
    await server.live.changed!(result({ revision: 11, values: [value('form.paid', '200')] as never }) as never)
    await server.live.findings!(4 as never, { revision: 11, findings: [], stamp: 5, ties: [] } as never)
    expect(store.valueOf('form.paid', null)?.value).toBe('300')
    expect(store.findings.value).toMatchObject([{ id: 'now' }])
  })

  it('keeps theirs by letting go of mine', async () => {
    server.answer = () =>
      result({
        conflicts: [
          { line: 'form.paid', row: null, mine: '9', theirs: '10', person: 'Pia', at: '2026-06-18T14:06:00Z' },
        ],
      })
    store.set('form.paid', null, '9', 10)
    await settled()
    store.keepTheirs('form.paid', null)
    expect(store.drafts.size).toBe(0)
    expect(server.sent.length).toBe(1)
  })

  it('keeps what was typed when the server refuses the whole act', async () => {
    server.answer = () => Promise.reject(new Problem(409, 'It was sent.'))
    store.set('form.paid', null, '5', 10)
    await settled()
    expect(store.problem.value).toBe('It was sent.')
    expect(store.drafts.get('form.paid|')).toMatchObject({ typed: '5', state: 'refused' })
  })

  it('is locked for somebody who looks on, and for everybody once it is filed', async () => {
    expect(store.locked).toBe(false)
    store.stage.value = 'sent'
    expect([store.locked, store.filed]).toEqual([true, true])
    const looking = await ReturnStore.open(4, { ...me, mayPrepare: false })
    expect([looking.locked, looking.filed]).toEqual([true, false])
    await looking.close()
  })

  it('takes in what others change, and who is there', async () => {
    await server.live.changed!(result({ person: 'Pia', values: [value('form.paid', '44')] as never }) as never)
    expect(store.valueOf('form.paid', null)?.value).toBe('44')
    await server.live.presence!(4 as never, ['Pia', 'Rukia'] as never)
    expect(store.others.value).toEqual(['Pia'])
  })

  it('draws nothing that others change while a button is pressed', async () => {
    const button = document.body.appendChild(document.createElement('button'))
    button.dispatchEvent(new Event('pointerdown', { bubbles: true }))
    const told = [
      server.live.changed!(result({ values: [value('form.paid', '44')] as never }) as never),
      server.live.findings!(4 as never, { revision: 11, findings: [{ id: 'x' }], stamp: 3, ties: [] } as never),
    ]
    await settled()
    expect(store.valueOf('form.paid', null)?.value).toBe('100')
    button.dispatchEvent(new Event('pointerup', { bubbles: true }))
    await Promise.all(told)
    expect(store.valueOf('form.paid', null)?.value).toBe('44')
    expect(store.findings.value).toMatchObject([{ id: 'x' }])
  })

  it('adds, duplicates, moves and removes rows, each with its way back', async () => {
    store.removeRow(rows(store), 'b')
    expect(store.undone.value).toBe('Car 2 removed.')
    store.undo()
    store.moveRow(rows(store), 'a', 1)
    store.duplicateRow(rows(store), 'a')
    store.addRow(rows(store), 'a')
    await settled()
    const changes = server.sent.flat() as Schemas['EntryChange'][]
    expect(changes.map((c) => [c.kind, c.position])).toEqual([
      ['remove-row', null],
      ['add-row', 1],
      ['move-row', 1],
      ['add-row', 1],
      ['set', null],
      ['add-row', 1],
    ])
    expect(changes[4]!.value).toBe('7')
    expect(new Set(changes.filter((c) => c.kind === 'add-row').map((c) => c.row)).size).toBe(3)
    expect(changes.every((c) => c.row == null || /^[a-z0-9-]{1,40}$/.test(c.row))).toBe(true)
  })

  it('removes and duplicates a page with the rows within it, and turns to the page of a line', async () => {
    const [pages, within] = withPages(store)
    expect(store.pageShown(pages)).toBe('p')
    store.goTo({ line: 'form.assets.worth', row: 'y' })
    expect(store.pageShown(pages)).toBe('q')
    store.removeRow(pages, 'p')
    expect(store.undone.value).toBe('Shop 1 removed.')
    store.undo()
    store.duplicateRow(pages, 'q')
    store.addRow(within, undefined, true, 'p')
    store.moveRow(within, 'z', -1, ['x', 'z'])
    await settled()
    const told = (server.sent.flat() as Schemas['EntryChange'][]).map((c) => [
      c.kind,
      c.section ?? c.line,
      c.position ?? c.value,
    ])
    expect(told.slice(0, 6)).toEqual([
      ['remove-row', 'form.assets', null],
      ['remove-row', 'form.assets', null],
      ['remove-row', 'form.shops', null],
      ['add-row', 'form.assets', 0],
      ['add-row', 'form.shops', 0],
      ['add-row', 'form.assets', 2],
    ])
    const copied = server.sent.flat().slice(6) as Schemas['EntryChange'][]
    const page = copied[0]!.row!
    expect(told.slice(6)).toEqual([
      ['add-row', 'form.shops', 2],
      ['set', 'form.shops.name', 'Quay'],
      ['add-row', 'form.assets', null],
      ['set', 'form.assets.worth', '8'],
      ['set', 'form.assets.of', page],
      ['add-row', 'form.assets', 3],
      ['set', 'form.assets.of', 'p'],
      ['move-row', 'form.assets', 0],
    ])
  })

  it('knows the place of every line', () => {
    expect(store.placeOfLine('scope.car')).toBe('/returns/4/scope?line=scope.car')
    expect(store.placeOfLine('form.rows.cost', 'a')).toBe('/returns/4/fill/form?line=form.rows.cost&row=a')
  })
})
