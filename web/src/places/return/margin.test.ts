import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { shallowRef } from 'vue'
import { useSession } from '../../session'
import OutcomeStrip from './OutcomeStrip.vue'
import Override from './Override.vue'
import PaymentsPanel from './PaymentsPanel.vue'
import Remarks from './Remarks.vue'
import Tied from './Tied.vue'
import type { Line, Remark, Tie } from '../../return/returnStore'

const server = vi.hoisted(() => ({ posted: [] as [string, unknown][], payments: {} as object }))
vi.mock('../../api/client', () => ({
  call: async (pending: unknown) => pending,
  api: {
    GET: (path: string, options: unknown) => (server.posted.push([path, options]), server.payments),
    POST: (path: string, options: { body: { line: string; row: string | null; words?: string } }) => {
      server.posted.push([path, options.body])
      return [
        {
          ...options.body,
          words: options.body.words ?? 'Why?',
          person: 'Rukia',
          at: '2026-06-18T14:06:00Z',
          settledBy: null,
        },
      ]
    },
  },
}))

const remark = (words: string, settledBy: string | null = null): Remark => ({
  line: 'tax.due',
  row: null,
  words,
  person: 'Pia',
  at: '2026-06-18T14:06:00Z',
  settledBy,
})

function fake(values: Record<string, string> = {}, remarks: Remark[] = []) {
  const list = shallowRef(remarks)
  return {
    id: 4,
    locked: false,
    remarks: list,
    remarksOn: (line: string, row: string | null) => list.value.filter((r) => r.line === line && r.row === row),
    valueOf: (key: string) => (key in values ? { value: values[key] } : undefined),
    said: (key: string) => values[key] ?? '',
    lineOf: (key: string) => ({ key }),
    setMany: vi.fn(),
  }
}

const open = (component: object, store: object, props: object = {}) =>
  mount(component, { props, global: { provide: { return: store }, stubs: ['v-text-field', 'v-btn'] } })

beforeEach(() => {
  setActivePinia(createPinia())
  useSession().view = { person: { mayPrepare: true } } as never
  server.posted = []
})

describe('remarks on a line', () => {
  const spot = { line: 'tax.due', row: null }

  it('are said, answered and settled', async () => {
    const store = fake()
    const wrapper = open(Remarks, store, { spot })
    expect(wrapper.text()).toContain('No remarks on this line')
    await wrapper.get('textarea').setValue('Where is the receipt?')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(server.posted).toEqual([
      ['/api/returns/{id}/remarks', { line: 'tax.due', row: null, words: 'Where is the receipt?' }],
    ])
    expect(wrapper.get('textarea').element.value).toBe('')
    expect(wrapper.text()).toContain('Where is the receipt?')
    expect(wrapper.get('button[type=submit]').text()).toBe('Answer')
    await wrapper.get('button[type=button]').trigger('click')
    expect(server.posted[1]).toEqual(['/api/returns/{id}/remarks/settle', { line: 'tax.due', row: null }])
  })

  it('say who settled them, and take no empty one', () => {
    const wrapper = open(Remarks, fake({}, [remark('Checked?', 'Rukia')]), { spot })
    expect(wrapper.get('.settled').text()).toContain('resolved by Rukia')
    expect(wrapper.find('button[type=button]').exists()).toBe(false)
    expect(wrapper.get('button[type=submit]').attributes('disabled')).toBeDefined()
  })
})

describe('a tied line', () => {
  const choices = [
    { code: 'standard', label: 'Standard deduction' },
    { code: 'itemised', label: 'Itemised deductions' },
  ]
  const tied = (
    line: Partial<Line>,
    there: string | null,
    here: Record<string, string>,
    standing: Partial<Tie['sources'][number]> = {},
  ) => {
    const source = { returnId: 3, title: 'Quarterly return', line: 'q.method', label: 'Method', value: there }
    const sources = [{ ...source, stage: 'draft', paid: null, safe: null, isFiled: false, ...standing }]
    const tie = { line: line.key!, value: there, sources, missing: [], safe: standing.safe ?? null }
    return mount(Tied, {
      props: { tie, line: line as Line },
      global: { provide: { return: fake(here) }, stubs: ['router-link'] },
    })
  }
  const method = { key: 'method', kind: 'choice', choices } as Partial<Line>
  const sales = { key: 'sales', kind: 'money' } as Partial<Line>

  it('says how far its source has come, what was paid, and what is safe now', () => {
    const due = tied(sales, '4800', { sales: '4800' }, { stage: 'accepted', paid: '3000', safe: '3000' }).text()
    expect(due).toContain('accepted; 3,000 recorded as paid')
    expect(due).toContain('Safe now: 3,000')
    const draft = tied(sales, '4800', { sales: '4800' }, { safe: '0' }).text()
    expect(draft).toContain('draft')
    expect(draft).not.toContain('paid')
    expect(draft).toContain('Safe now: 0')
    expect(tied(sales, '4800', { sales: '4800' }, { safe: '4800' }).text()).not.toContain('Safe now')
    expect(tied(sales, '4800', { sales: '4800' }).text()).not.toContain('Safe now')
  })

  it.each([
    [method, 'standard', { method: 'standard' }, 'Standard deduction', null],
    [method, 'standard', { method: 'itemised' }, 'Standard deduction', 'Take Standard deduction from there'],
    [sales, '1240.00', { sales: '1240' }, '1,240', null],
    [sales, '1240', { sales: '900' }, '1,240', 'Take 1,240 from there'],
    [sales, null, { sales: '0' }, 'blank', null],
    [sales, null, {}, 'blank', null],
  ] as const)('%o, which says %s there with %o here, shows %s and offers %s', (line, there, here, shown, offered) => {
    const wrapper = tied(line, there, here)
    expect(wrapper.get('.amount').text()).toBe(shown)
    expect(wrapper.find('button').exists() ? wrapper.get('button').text() : null).toBe(offered)
  })
})

describe('the balance beside what it was at opening', () => {
  it.each([
    ['900', '650', 'To pay', '250 more'],
    ['650', '900', 'To pay', '250 less'],
    ['-36324', '-40074', 'Refund', '3,750 less'],
    ['-40074', '-36324', 'Refund', '3,750 more'],
    ['50', '-100', 'To pay', '150 more'],
    ['-100', '50', 'Refund', '150 more'],
    ['-100', '-100', 'Refund', 'as at opening'],
  ])('%s after %s is %s, %s', (balance, openingBalance, label, movement) => {
    const layout = { outcome: [{ line: 'balance' }], balanceLabel: 'To pay', overpaidLabel: 'Refund' }
    const store = { layout, balance, openingBalance, view: { value: { currency: 'KES' } }, placeOfLine: () => '/' }
    const wrapper = mount(OutcomeStrip, {
      global: { provide: { return: store }, stubs: { 'router-link': { template: '<a><slot /></a>' } } },
    })
    expect(wrapper.get('.balance').text()).toContain(label)
    expect(wrapper.get('.movement').text()).toContain(movement)
  })
})

describe('an override', () => {
  const line = {
    key: 'charges.surcharge',
    override: { amount: 'charges.amount', reason: 'charges.reason', judgement: 'The authority may abate it.' },
  } as Line

  it('needs an amount and a reason, and sets both at once', async () => {
    const store = fake()
    const wrapper = open(Override, store, { line })
    expect(wrapper.text()).toContain('The authority may abate it.')
    await wrapper.get('.acts button').trigger('click')
    const [amount, reason] = wrapper.findAll('input')
    await amount!.setValue('0')
    expect(wrapper.get('button[type=submit]').attributes('disabled')).toBeDefined()
    await reason!.setValue('Letter of 1 August')
    await wrapper.get('form').trigger('submit')
    expect(store.setMany).toHaveBeenCalledExactlyOnceWith([
      [null, { key: 'charges.amount' }, '0'],
      [null, { key: 'charges.reason' }, 'Letter of 1 August'],
    ])
  })

  it('goes back to what is computed', async () => {
    const store = fake({ 'charges.amount': '500', 'charges.reason': 'Letter' })
    const wrapper = open(Override, store, { line })
    expect(wrapper.text()).toContain('Overridden: 500. Letter')
    await wrapper.findAll('.acts button')[1]!.trigger('click')
    expect(store.setMany.mock.calls[0]![0].map((cell: unknown[]) => cell[2])).toEqual(['', ''])
  })
})

describe('a payment advice', () => {
  it('shows the reference, the parts, what being late adds, and asks anew for another day', async () => {
    server.payments = {
      balance: '80000',
      paid: '0',
      unpaid: '80000',
      currency: 'PHP',
      reference: 'RF18539007547034',
      on: '2025-07-14',
      parts: [
        {
          label: 'First part',
          due: '2025-04-15',
          amount: '80000',
          paid: '0',
          unpaid: '80000',
          charges: [{ label: 'Surcharge', amount: '8000', law: 'NIRC s. 248', words: 'w' }],
        },
      ],
      dueBy: '88000',
      left: '88000',
      payments: [],
    }
    const wrapper = open(PaymentsPanel, fake())
    await flushPromises()
    expect(wrapper.get('[data-reference]').text()).toBe('RF18 5390 0754 7034')
    expect(wrapper.text()).toContain('First part, by 15 Apr 2025')
    expect(wrapper.text()).toContain('Surcharge, if paid on 14 Jul 2025')
    expect(wrapper.get('.left').text()).toContain('88,000')
    await wrapper.get('input[aria-label="Advice for the day"]').setValue('2025-08-01')
    await flushPromises()
    expect(server.posted.at(-1)).toMatchObject([
      '/api/returns/{id}/payments',
      { params: { query: { on: '2025-08-01' } } },
    ])
  })
})
