import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref, shallowReactive, shallowRef, type Ref } from 'vue'
import type { Schemas } from '../api/client'
import { placeKey, type Draft, type Finding, type Line, type Remark, type Value } from '../return/returnStore'
import DerivationNode from './DerivationNode.vue'
import EntryField from './EntryField.vue'
import LedgerLine from './LedgerLine.vue'

function line(kind: Line['kind'], more: Partial<Line> = {}): Line {
  return {
    key: 'form.line',
    name: 'line',
    number: '1.1',
    label: 'Line',
    kind,
    isYear: false,
    computed: false,
    law: null,
    from: null,
    into: [],
    hint: null,
    unit: null,
    target: null,
    mayBeRequired: false,
    usuallyYes: false,
    conditional: false,
    rule: 'none',
    choices: null,
    longestText: 300,
    countsAttachments: false,
    proposedBy: null,
    overrides: null,
    override: null,
    ...more,
  }
}

function value(text: string | null, more: Partial<Value> = {}): Value {
  return {
    line: 'form.line',
    row: null,
    value: text,
    open: true,
    kept: null,
    origin: 'typed',
    source: null,
    expression: null,
    ...more,
  }
}

function fakeStore(now: Value) {
  return {
    values: shallowReactive(new Map([[placeKey('form.line', null), now]])),
    drafts: shallowReactive(new Map<string, Draft>()),
    findings: shallowRef<Finding[]>([]),
    openRemarks: shallowRef<Remark[]>([]),
    valueOf: (key: string) => (key === 'form.line' ? now : undefined) as Value | undefined,
    focus: shallowRef(null),
    revision: ref(7),
    locked: false,
    layout: { forms: [] },
    view: { value: { lastYear: null } },
    set: vi.fn(),
    keepTheirs: vi.fn(),
    useMine: vi.fn(),
    lineOf: () => ({ number: '3.7', kind: 'money' }),
    choicesOf: (line: Line) => line.choices ?? [],
  }
}

const open = (
  component: object,
  now: Value,
  props: object,
  change: (store: ReturnType<typeof fakeStore>) => void = () => {},
) => {
  const store = fakeStore(now)
  change(store)
  const wrapper = mount(component, {
    props: { row: null, ...props },
    global: { provide: { return: store } },
    attachTo: document.body,
  })
  return { store, wrapper }
}

afterEach(() => (document.body.innerHTML = ''))

describe('an entry field', () => {
  const money = line('money')

  it('shows the amount grouped and sends what was typed on leaving, with the revision seen when typing began', async () => {
    const { store, wrapper } = open(EntryField, value('1234567.5'), { line: money })
    const input = wrapper.get('input')
    expect(input.element.value).toBe('1,234,567.50')
    await input.trigger('focus')
    store.revision.value = 9
    await input.setValue('12*3')
    await input.trigger('blur')
    expect(store.set).toHaveBeenCalledExactlyOnceWith('form.line', null, '12*3', 7)
  })

  it('sends nothing when nothing was typed', async () => {
    const { store, wrapper } = open(EntryField, value('5000'), { line: money })
    await wrapper.get('input').trigger('focus')
    await wrapper.get('input').trigger('blur')
    expect(store.set).not.toHaveBeenCalled()
  })

  it('restores the value before the edit on Escape', async () => {
    const { store, wrapper } = open(EntryField, value('5000'), { line: money })
    const input = wrapper.get('input')
    await input.trigger('focus')
    await input.setValue('9')
    await input.trigger('keydown', { key: 'Escape' })
    expect(input.element.value).toBe('5,000')
    await input.trigger('blur')
    expect(store.set).not.toHaveBeenCalled()
  })

  it('commits on Enter even when it is the last field of the page', async () => {
    const { store, wrapper } = open(EntryField, value(null), { line: money })
    const input = wrapper.get('input')
    await input.trigger('focus')
    await input.setValue('42')
    await input.trigger('keydown', { key: 'Enter' })
    expect(store.set).toHaveBeenCalledWith('form.line', null, '42', 7)
  })

  it('edits the arithmetic that was typed, not its result', async () => {
    const { wrapper } = open(EntryField, value('24000', { expression: '12*2,000' }), { line: money })
    const input = wrapper.get('input')
    expect(input.element.value).toBe('24,000')
    await input.trigger('focus')
    expect(input.element.value).toBe('12*2,000')
  })

  it('keeps a refused text on screen and marks it', () => {
    const { wrapper } = open(EntryField, value('5000'), { line: money }, (store) =>
      store.drafts.set('form.line|', { typed: '1.2.3', state: 'refused', message: 'no' }),
    )
    expect(wrapper.get('input').element.value).toBe('1.2.3')
    expect(wrapper.get('input').attributes('aria-invalid')).toBe('true')
  })

  it('takes Y and N, and does not take them twice', async () => {
    const { store, wrapper } = open(EntryField, value('no'), { line: line('answer') })
    const group = wrapper.get('[role=radiogroup]')
    await group.trigger('keydown', { key: 'y' })
    await group.trigger('keydown', { key: 'n' })
    await group.trigger('keydown', { key: 'y', altKey: true })
    expect(store.set.mock.calls.map((call) => call[2])).toEqual(['yes'])
  })

  it('shows dates in words and codes by label', () => {
    expect(open(EntryField, value('2025-12-31'), { line: line('date') }).wrapper.get('input').element.value).toBe(
      '31 Dec 2025',
    )
    const choices = [{ code: 'a', label: 'First' }]
    const { wrapper } = open(EntryField, value('a'), { line: line('choice', { choices }) })
    expect(wrapper.get('select').element.selectedOptions[0]!.text).toBe('First')
  })
})

describe('a line of the ledger', () => {
  it('prints computed lines as buttons that explain, and takes no typing', async () => {
    const { store, wrapper } = open(LedgerLine, value('-742'), {
      line: line('money', { computed: true, rule: 'final' }),
    })
    expect(wrapper.find('input').exists()).toBe(false)
    expect(wrapper.get('.computed').text()).toBe('(742)')
    await wrapper.get('.computed').trigger('click')
    expect((store.focus as Ref).value).toEqual({ line: 'form.line', row: null })
  })

  it('says where a value comes from', () => {
    const { wrapper } = open(LedgerLine, value('5', { origin: 'authority', source: 'C-1' }), { line: line('money') })
    expect(wrapper.get('.origin').text()).toBe('auth.')
    expect(wrapper.get('.origin').attributes('title')).toContain('C-1')
  })

  it('is not shown while it does not apply, unless it keeps an entry', () => {
    expect(
      open(LedgerLine, value(null, { open: false }), { line: line('money') })
        .wrapper.find('.line')
        .exists(),
    ).toBe(false)
    const kept = open(LedgerLine, value(null, { open: false, kept: '410000' }), { line: line('money') }).wrapper
    expect(kept.get('.line').classes()).toContain('closed')
    expect(kept.text()).toContain('410000 kept')
  })

  it('says that a computed figure is overridden, and prints an override only once there is one', () => {
    const override = { amount: 'form.line', reason: 'form.reason', judgement: 'The authority may abate it.' }
    const { wrapper } = open(LedgerLine, value('0'), { line: line('money', { computed: true, override }) })
    expect(wrapper.get('.origin').text()).toBe('overrid.')
    const printed = (text: string | null) =>
      open(LedgerLine, value(text), { line: line('money', { overrides: 'form.charge' }) })
        .wrapper.find('.line')
        .exists()
    expect([printed('0'), printed(null)]).toEqual([true, false])
  })

  it('is marked while a remark on it is open', () => {
    const remark = { line: 'form.line', row: null, words: 'w', person: 'p', at: 't', settledBy: null }
    const marked = (r: Remark) =>
      open(LedgerLine, value('1'), { line: line('money') }, (s) => (s.openRemarks.value = [r]))
        .wrapper.find('.remarked')
        .exists()
    expect(marked(remark)).toBe(true)
    expect(marked({ ...remark, line: 'form.other' })).toBe(false)
    expect(marked({ ...remark, row: 'a' })).toBe(false)
  })

  it('offers both values of a conflict', async () => {
    const { store, wrapper } = open(LedgerLine, value('10'), { line: line('money') }, (s) =>
      s.drafts.set('form.line|', {
        typed: '9',
        state: 'conflict',
        theirs: '10',
        message: 'Rukia changed this line at 14:06.',
      }),
    )
    expect(wrapper.get('[role=alert]').text()).toMatch(/Rukia changed.*They have 10, you typed 9/)
    const [theirs, mine] = wrapper.findAll('[role=alert] button')
    await theirs!.trigger('click')
    await mine!.trigger('click')
    expect(store.keepTheirs).toHaveBeenCalledOnce()
    expect(store.useMine).toHaveBeenCalledOnce()
  })

  it('shows errors and warnings at their line, but not accepted ones', () => {
    const finding = (more: Partial<Finding>): Finding => ({
      id: 'x',
      severity: 'warning',
      message: 'm',
      lines: ['form.line'],
      table: null,
      row: null,
      form: 'form',
      acceptance: null,
      ...more,
    })
    const shown = (f: Finding) =>
      open(LedgerLine, value('1'), { line: line('money') }, (s) => (s.findings.value = [f]))
        .wrapper.find('.mark')
        .exists()
    expect(shown(finding({}))).toBe(true)
    expect(shown(finding({ severity: 'note' }))).toBe(false)
    expect(shown(finding({ acceptance: { reason: 'r', person: 'p', at: 't' } }))).toBe(false)
    expect(shown(finding({ row: 'other' }))).toBe(false)
  })
})

describe('a derivation', () => {
  const node = (more: Partial<Schemas['DerivationNode']>): Schemas['DerivationNode'] =>
    ({
      kind: 'line',
      words: 'w',
      value: '1',
      operands: [],
      bands: [],
      decides: false,
      subtracted: false,
      ...more,
    }) as Schemas['DerivationNode']

  it('links every line to its own derivation', async () => {
    const { wrapper } = open(DerivationNode, value(null), {
      node: node({ line: 'tax.tax', words: 'Tax', value: '503533' }),
    })
    expect(wrapper.text()).toContain('503,533')
    await wrapper.get('button').trigger('click')
    expect(wrapper.emitted('follow')).toEqual([['tax.tax', null]])
  })

  it('prints bands and fades the unused ones', () => {
    const bands = [
      { from: '0', to: '288000', rate: '10%', amount: '288000', tax: '28800' },
      { from: '288000', to: null, rate: '25%', amount: '0', tax: '0' },
    ]
    const { wrapper } = open(DerivationNode, value(null), {
      node: node({ kind: 'bands', words: 'bands of tax', bands, source: 'Third Schedule' }),
    })
    const rows = wrapper.findAll('tbody tr')
    expect(rows[0]!.text()).toContain('28,800')
    expect(rows[1]!.classes()).toContain('unused')
    expect(wrapper.text()).toContain('Third Schedule')
  })

  it('says which operand decided, what is subtracted, and how sure the law is', () => {
    const operands = [
      node({
        kind: 'parameter',
        words: 'limit for the year',
        value: '250,000',
        source: 'ITA s. 22A',
        confidence: 'unsure',
        decides: true,
      }),
      node({ line: 'a.b', words: 'Paid', subtracted: true }),
    ]
    const { wrapper } = open(DerivationNode, value(null), { node: node({ kind: 'least', operands }) })
    expect(wrapper.text()).toContain('the least of')
    expect(wrapper.get('.decides').text()).toContain('limit for the year')
    expect(wrapper.get('.unsure').text()).toContain('unsure')
    expect(wrapper.get('[aria-label=less]').text()).toBe('-')
  })
})
