import { flushPromises, mount } from '@vue/test-utils'
import { shallowReactive, shallowRef, ref } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Draft, Finding, Line, ReturnStore, Section, Spot, Value } from '../return/returnStore'
import { blockOf, readBlock, visible, writeBlock } from './gridCells'
import GridSubtotals from './GridSubtotals.vue'
import LedgerGrid from './LedgerGrid.vue'

describe('a block from a spreadsheet', () => {
  it('is read by tabs and line ends, quoted cells whole', () => {
    expect(readBlock('a\tb\r\n1\t2\r\n')).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ])
    expect(readBlock('"two\nlines"\t"say ""so"""')).toEqual([['two\nlines', 'say "so"']])
    expect(readBlock('one')).toEqual([['one']])
    expect(readBlock('a\t\t')).toEqual([['a', '', '']])
  })

  it('comes back as it was written', () => {
    const block = [
      ['a', 'with\ttab'],
      ['"quoted"', 'two\nlines'],
    ]
    expect(readBlock(writeBlock(block))).toEqual(block)
  })

  it('is the rectangle between two cells, whichever comes first', () => {
    expect(blockOf({ row: 5, column: 3 }, { row: 2, column: 7 })).toEqual({ top: 2, bottom: 5, left: 3, right: 7 })
  })
})

describe('the rows on screen', () => {
  it('are few of many, with some around', () => {
    expect(visible(28_000, 560, 28, 5_000)).toEqual({ first: 996, last: 1024 })
    expect(visible(0, 560, 28, 5)).toEqual({ first: 0, last: 5 })
    expect(visible(140_000, 560, 28, 5_000).last).toBe(5_000)
  })
})

const line = (name: string, kind: Line['kind'], more: Partial<Line> = {}): Line =>
  ({
    key: `list.rows.${name}`,
    name,
    number: '1.1',
    label: name,
    kind,
    computed: false,
    conditional: false,
    ...more,
  }) as Line
const columns = [
  line('payer', 'text'),
  line('code', 'choice', {
    choices: [
      { code: 'C10', label: 'C10 Fees' },
      { code: 'C20', label: 'C20 Rent' },
    ],
  }),
  line('paid', 'money'),
  line('received', 'answer'),
  line('tax', 'money', { computed: true }),
]
const section = {
  key: 'list.rows',
  title: 'Rows',
  table: { key: 'list.rows', rowLabel: 'certificate', namedBy: null, grid: true },
  lines: columns,
} as unknown as Section

function storeWith(rows: string[][]) {
  const values = shallowReactive(new Map<string, Value>())
  const drafts = shallowReactive(new Map<string, Draft>())
  const ids = rows.map((_, index) => `r${index}`)
  rows.forEach((cells, index) =>
    cells.forEach((value, column) =>
      values.set(`${columns[column]!.key}|r${index}`, {
        line: columns[column]!.key,
        row: `r${index}`,
        value: value || null,
        open: true,
      } as unknown as Value),
    ),
  )
  return {
    id: 1,
    values,
    drafts,
    findings: shallowRef<Finding[]>([]),
    focus: shallowRef<Spot | null>(null),
    revision: ref(7),
    locked: false,
    rowsOf: () => ids,
    valueOf: (key: string, row: string) => values.get(`${key}|${row}`),
    said: (key: string, row: string) => {
      const draft = drafts.get(`${key}|${row}`)
      return draft?.state === 'sending' ? draft.typed : (values.get(`${key}|${row}`)?.value ?? '')
    },
    set: vi.fn(),
    setMany: vi.fn(),
    pasteRows: vi.fn(),
    removeRows: vi.fn(),
    addRow: vi.fn(),
    duplicateRow: vi.fn(),
    lineOf: (key: string) => columns.find((c) => c.key === key),
    choicesOf: (line: Line) => line.choices ?? [],
  }
}

describe('a grid', () => {
  let store: ReturnType<typeof storeWith>
  beforeEach(() => {
    vi.stubGlobal(
      'ResizeObserver',
      class {
        observe() {}
        disconnect() {}
      },
    )
    store = storeWith([
      ['Salt', 'C10', '100.50', 'yes', '5'],
      ['Coral', 'C20', '20', '', '1'],
      ['Buoy', 'C10', '3.25', '', '0.16'],
    ])
  })
  const grid = () =>
    mount(LedgerGrid, {
      props: { section },
      attachTo: document.body,
      global: {
        provide: { return: store as unknown as ReturnStore },
        stubs: { GridFiles: true, GridSubtotals: true, SeverityMark: true },
      },
    })
  const keys = async (wrapper: ReturnType<typeof grid>, ...pressed: (string | KeyboardEventInit)[]) => {
    for (const one of pressed)
      await wrapper.find('[data-grid]').trigger('keydown', typeof one === 'string' ? { key: one } : one)
    await flushPromises()
  }

  it('takes what is typed into the cell one stands on, and goes down on Enter', async () => {
    const wrapper = grid()
    await keys(wrapper, 'ArrowRight', 'ArrowRight', '7')
    const editor = wrapper.find('[data-editor]')
    expect((editor.element as HTMLInputElement).value).toBe('7')
    await editor.setValue('75')
    await editor.trigger('keydown', { key: 'Enter' })
    expect(store.set).toHaveBeenCalledWith('list.rows.paid', 'r0', '75', 7)
    expect(wrapper.find('.cell.at').attributes('data-place')).toBe('list.rows.paid|r1')
  })

  it('puts back what was there on Escape', async () => {
    const wrapper = grid()
    await keys(wrapper, 'F2')
    await wrapper.find('[data-editor]').setValue('other')
    await wrapper.find('[data-editor]').trigger('keydown', { key: 'Escape' })
    expect(store.set).not.toHaveBeenCalled()
  })

  it.each(['sending', 'refused'] as const)(
    'sends what the server has once more, where something else is %s in between',
    async (state) => {
      const wrapper = grid()
      store.drafts.set('list.rows.paid|r0', { typed: '7x', state })
      await keys(wrapper, 'ArrowRight', 'ArrowRight', 'F2')
      await wrapper.find('[data-editor]').setValue('100.50')
      await wrapper.find('[data-editor]').trigger('keydown', { key: 'Enter' })
      expect(store.set).toHaveBeenCalledWith('list.rows.paid', 'r0', '100.50', 7)
    },
  )

  it('fills down what is on its way, and copies and clears what is seen', async () => {
    const wrapper = grid()
    store.drafts.set('list.rows.paid|r0', { typed: '250', state: 'sending' })
    store.drafts.set('list.rows.received|r1', { typed: 'perhaps', state: 'refused' })
    await keys(wrapper, 'ArrowRight', 'ArrowRight', { key: 'ArrowDown', shiftKey: true })
    await keys(wrapper, { key: 'd', ctrlKey: true })
    expect(store.setMany).toHaveBeenLastCalledWith([['r1', columns[2], '250']])
    const setData = vi.fn()
    await keys(wrapper, { key: 'ArrowRight', shiftKey: true })
    await wrapper.find('[data-grid]').trigger('copy', { clipboardData: { setData } })
    expect(setData).toHaveBeenCalledWith('text/plain', '250\tyes\n20\tperhaps')
    await keys(wrapper, 'ArrowDown', 'ArrowUp', 'Delete')
    expect(store.setMany).toHaveBeenLastCalledWith([['r1', columns[3], '']])
  })

  it('understands a code by the beginning of its label, and answers by a letter', async () => {
    const wrapper = grid()
    await keys(wrapper, 'ArrowRight', 'c')
    await wrapper.find('[data-editor]').setValue('c20')
    await wrapper.find('[data-editor]').trigger('keydown', { key: 'Tab' })
    expect(store.set).toHaveBeenCalledWith('list.rows.code', 'r0', 'C20', 7)
    await keys(wrapper, 'ArrowRight', 'n')
    expect(store.setMany).toHaveBeenCalledWith([['r0', columns[3], 'no']])
  })

  it('cannot be typed into where a line is computed or does not apply, and says so', async () => {
    const wrapper = grid()
    await keys(wrapper, 'End', '9')
    expect(wrapper.find('[data-editor]').exists()).toBe(false)
    expect(wrapper.text()).toContain('‘tax’ is computed and not typed into.')
    const closed = store.values.get('list.rows.paid|r0')!
    store.values.set('list.rows.paid|r0', { ...closed, value: null, open: false })
    await keys(wrapper, 'Home', 'ArrowRight', 'ArrowRight', '4')
    expect(wrapper.text()).toContain('‘paid’ does not apply to this row.')
    await keys(wrapper, 'ArrowDown')
    expect(wrapper.find('.told').exists()).toBe(false)
  })

  it('goes on with Tab over what is not typed into, from row to row, and leaves at its end; Enter goes down', async () => {
    const wrapper = grid()
    const at = () => wrapper.find('.cell.at').attributes('data-place')
    await keys(wrapper, 'Tab', 'Tab', 'Tab')
    expect(at()).toBe('list.rows.received|r0')
    await keys(wrapper, 'Tab')
    expect(at()).toBe('list.rows.payer|r1')
    await keys(wrapper, { key: 'Tab', shiftKey: true })
    expect(at()).toBe('list.rows.received|r0')
    await keys(wrapper, 'Enter', 'Enter')
    expect(at()).toBe('list.rows.received|r2')
    const event = new KeyboardEvent('keydown', { key: 'Tab', cancelable: true })
    wrapper.find('[data-grid]').element.dispatchEvent(event)
    expect(event.defaultPrevented).toBe(false)
  })

  it('shows the codes that fit while one is typed; Enter takes the one pointed at', async () => {
    const wrapper = grid()
    await keys(wrapper, 'ArrowRight', 'F2')
    await flushPromises()
    const options = () => [...document.querySelectorAll('[role=option]')].map((o) => o.textContent?.trim())
    expect(options()).toEqual(['C10 Fees', 'C20 Rent'])
    await wrapper.find('[data-editor]').setValue('c')
    await wrapper.find('[data-editor]').trigger('keydown', { key: 'ArrowDown' })
    await wrapper.find('[data-editor]').trigger('keydown', { key: 'Enter' })
    expect(store.set).toHaveBeenCalledWith('list.rows.code', 'r0', 'C20', 7)
    wrapper.unmount()
  })

  it('proposes what a code implies until somebody confirms it or types over it', async () => {
    columns[2] = { ...columns[2]!, proposedBy: 'list.rows.tax' }
    section.lines = [...columns]
    const blank = store.values.get('list.rows.paid|r1')!
    store.values.set('list.rows.paid|r1', { ...blank, value: null })
    const wrapper = grid()
    const cell = () => wrapper.find('[data-place="list.rows.paid|r1"]')
    expect([cell().text(), cell().classes('proposed')]).toEqual(['1', true])
    await keys(wrapper, 'ArrowRight', 'ArrowRight', 'ArrowDown')
    expect(wrapper.text()).toContain('1 is proposed by ‘tax’')
    await keys(wrapper, 'Enter')
    expect(store.setMany).toHaveBeenLastCalledWith([['r1', columns[2], '1']])
    await keys(wrapper, 'ArrowUp', 'F2')
    await wrapper.find('[data-editor]').trigger('keydown', { key: 'Enter' })
    expect(store.set).toHaveBeenLastCalledWith('list.rows.paid', 'r1', '1', 7)
    store.values.set('list.rows.paid|r1', { ...blank, value: '1' })
    await flushPromises()
    expect(cell().classes('proposed')).toBe(false)
    columns[2] = { ...columns[2]!, proposedBy: null }
    section.lines = [...columns]
  })

  it('fills down, clears and removes a block, and sums what is chosen', async () => {
    const wrapper = grid()
    await keys(
      wrapper,
      'ArrowRight',
      'ArrowRight',
      { key: 'ArrowDown', shiftKey: true },
      { key: 'ArrowDown', shiftKey: true },
    )
    expect(wrapper.find('.count').text()).toContain('selected: 123.75')
    await keys(wrapper, { key: 'd', ctrlKey: true })
    expect(store.setMany).toHaveBeenLastCalledWith([
      ['r1', columns[2], '100.50'],
      ['r2', columns[2], '100.50'],
    ])
    await keys(wrapper, 'Delete')
    expect(store.setMany).toHaveBeenLastCalledWith(['r0', 'r1', 'r2'].map((row) => [row, columns[2], '']))
    await keys(wrapper, { key: '-', ctrlKey: true })
    expect(store.removeRows).toHaveBeenCalledWith(section, ['r0', 'r1', 'r2'])
  })

  it('orders and filters what is shown, not the return', async () => {
    const wrapper = grid()
    await wrapper.findAll('[role=columnheader]')[3]!.trigger('click')
    const payers = () => wrapper.findAll('[data-place^="list.rows.payer"]').map((cell) => cell.text())
    expect(payers()).toEqual(['Buoy', 'Coral', 'Salt'])
    await wrapper.find('input[type=search]').setValue('fees salt')
    expect(payers()).toEqual(['Salt'])
    await wrapper.find('input[type=search]').setValue('')
    store.findings.value = [
      {
        id: 'x',
        severity: 'warning',
        message: 'Check.',
        lines: ['list.rows.code'],
        table: 'list.rows',
        row: 'r1',
        form: 'list',
      } as unknown as Finding,
    ]
    await wrapper.find('input[type=checkbox]').setValue(true)
    expect(payers()).toEqual(['Coral'])
    expect(wrapper.text()).toContain('Check.')
  })

  it('goes to a finding from within, keeps what was being typed, and shows a row that was filtered away', async () => {
    const wrapper = grid()
    await wrapper.find('[data-grid]').trigger('focusin')
    await keys(wrapper, 'ArrowRight', 'ArrowRight', '7')
    await wrapper.find('[data-editor]').setValue('75')
    store.focus.value = { line: 'list.rows.code', row: 'r2' }
    await flushPromises()
    expect(store.set).toHaveBeenCalledWith('list.rows.paid', 'r0', '75', 7)
    expect(wrapper.find('.cell.at').attributes('data-place')).toBe('list.rows.code|r2')
    await wrapper.find('input[type=search]').setValue('salt')
    store.focus.value = { line: 'list.rows.payer', row: 'r1' }
    await flushPromises()
    expect(wrapper.find('.cell.at').attributes('data-place')).toBe('list.rows.payer|r1')
    expect(wrapper.findAll('[role=row]')).toHaveLength(4)
  })

  it('subtotals by any column, to the cent', async () => {
    const wrapper = mount(GridSubtotals, {
      props: { section },
      global: { provide: { return: store as unknown as ReturnStore } },
    })
    await wrapper.find('button').trigger('click')
    const rows = wrapper.findAll('tbody tr').map((row) => row.findAll('td').map((cell) => cell.text()))
    expect(rows).toEqual([
      ['C10 Fees', '2', '103.75', '5.16'],
      ['C20 Rent', '1', '20', '1'],
    ])
  })
})
