import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useSession } from '../../session'
import FileLink from '../../shared/FileLink.vue'
import EntriesPanel from './EntriesPanel.vue'
import MailShown from './MailShown.vue'
import ReturnAtAGlance from './ReturnAtAGlance.vue'

const server = vi.hoisted(() => ({ answers: [] as unknown[], asked: [] as unknown[] }))
vi.mock('../../api/client', () => {
  const act = (path: string, options: { params?: { query?: unknown } }) => {
    server.asked.push([path, options?.params?.query])
    return Promise.resolve(server.answers.shift())
  }
  return { call: (pending: unknown) => pending, fileBody: () => ({}), api: { GET: act, POST: act } }
})

const finding = (id: string, severity: string, message: string, reason?: string) => ({
  id,
  row: null,
  severity,
  message,
  lines: ['tax.tax'],
  acceptance: reason ? { reason, person: 'Rukia', at: '2026-06-18T09:30:00Z' } : null,
})
const store = {
  id: 4,
  locked: false,
  layout: {
    outcome: [
      { label: 'Income', line: 'tax.income', sign: '' },
      { label: 'Balance', line: 'tax.tax', sign: '=' },
    ],
  },
  view: {
    value: { clientId: 7, year: 2025, lastYear: { year: 2024, values: { 'tax.income': '900000', 'tax.tax': '50' } } },
  },
  valueOf: (line: string) => ({ value: line === 'tax.income' ? '1000000.50' : '50' }),
  placeOfLine: (line: string) => `/line/${line}`,
  findings: {
    value: [
      finding('late', 'warning', 'The return is late.', 'The client was told.'),
      finding('open', 'warning', 'Not accepted yet.'),
      finding('method:alternative', 'note', 'Another method would cost 500 less.'),
    ],
  },
  remarks: { value: [{ line: 'tax.tax', words: 'Is that all?', person: 'Mosi', at: 'x', settledBy: 'Rukia' }] },
  queue: { settled: async () => {} },
  reload: vi.fn(),
}
const open = async (component: object, props: object = {}) => {
  const wrapper = mount(component, {
    props,
    global: {
      provide: { return: store },
      stubs: { 'router-link': { template: '<a><slot /></a>' }, 'v-btn': { template: '<button><slot /></button>' } },
    },
  })
  await flushPromises()
  return wrapper
}

beforeEach(() => {
  setActivePinia(createPinia())
  useSession().view = { person: { mayPrepare: true } } as never
  server.answers = []
  server.asked = []
})

describe('who approves', () => {
  it('sees figures beside last year, what was accepted and why, what was not taken, remarks and papers', async () => {
    server.answers = [
      [
        { id: 1, returnId: 4, name: 'p9.pdf', kind: 'certificate' },
        { id: 2, returnId: 9, name: 'x.pdf' },
      ],
    ]
    const wrapper = await open(ReturnAtAGlance)
    const rows = wrapper.findAll('tbody tr').map((r) => r.findAll('td').map((d) => d.text()))
    expect(rows).toEqual([
      ['Income', '900,000', '1,000,000.50', '100,000.50'],
      ['Balance', '50', '50', ''],
    ])
    expect(wrapper.text()).toContain('1 warning accepted')
    expect(wrapper.text()).toContain('The client was told. (Rukia, 18 Jun 2026, 09:30)')
    expect(wrapper.text()).not.toContain('Not accepted yet.')
    expect(wrapper.text()).toContain('Another method would cost 500 less.')
    expect(wrapper.text()).toContain('resolved by Rukia')
    expect(wrapper.text()).toContain('p9.pdf')
    expect(wrapper.text()).not.toContain('x.pdf')
  })

  it('reads a mail as it leaves', async () => {
    const mail = { from: 'us', to: 'them', subject: 'List', text: ' Words. ', attachments: ['list.csv'] }
    const wrapper = await open(MailShown, { mail, title: 'This mail will leave' })
    expect(wrapper.findAll('dd').map((d) => d.text())).toEqual(['us', 'them', 'List', 'list.csv'])
    expect(wrapper.get('pre').text()).toBe('Words.')
  })
})

describe('a workbook brought back', () => {
  const problem = { sheet: 'Declaration', row: 4, column: 'Date', value: 'soon', message: 'Not a date.' }
  const bring = async (wrapper: Awaited<ReturnType<typeof open>>) => {
    wrapper.getComponent(FileLink).vm.$emit('chosen', [new File(['x'], 'filled.xlsx')])
    await flushPromises()
  }

  it('is tried first, told by sheet, row and column, and taken as far as it can be read', async () => {
    const report = { changes: 2, newRows: 1, stored: false, problems: [problem], ignored: ['Notes'] }
    server.answers = [report, { ...report, stored: true }]
    const wrapper = await open(EntriesPanel)
    await bring(wrapper)
    expect(server.asked[0]).toEqual(['/api/returns/{id}/entries/import', { name: 'filled.xlsx' }])
    expect(wrapper.get('[role=status]').text()).toContain('2 entries and 1 new row differ, 1 cell cannot be read')
    expect(wrapper.text()).toContain('Not taken: Notes.')
    expect(wrapper.findAll('tbody td').map((d) => d.text())).toEqual([
      'Declaration',
      '4',
      'Date',
      'soon',
      'Not a date.',
    ])
    await wrapper.get('button').trigger('click')
    await flushPromises()
    expect(server.asked[1]).toEqual(['/api/returns/{id}/entries/import', { name: 'filled.xlsx', keep: 'good' }])
    expect(store.reload).toHaveBeenCalled()
    expect(wrapper.get('[role=status]').text()).toContain('taken from filled.xlsx')
  })

  it('that says what the return says changes nothing', async () => {
    server.answers = [{ changes: 0, newRows: 0, stored: false, problems: [], ignored: [] }]
    const wrapper = await open(EntriesPanel)
    await bring(wrapper)
    expect(wrapper.get('[role=status]').text()).toBe('The workbook says what the return says.')
    expect(wrapper.find('button').exists()).toBe(false)
  })
})
