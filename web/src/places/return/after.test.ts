import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useSession } from '../../session'
import FileLink from '../../shared/FileLink.vue'
import AcceptPage from '../accept/AcceptPage.vue'
import StandingPanel from '../client/StandingPanel.vue'
import PaymentTools from '../desk/PaymentTools.vue'
import ApprovalRulesPanel from '../practice/ApprovalRulesPanel.vue'
import SchemasPanel from '../practice/SchemasPanel.vue'
import AssessmentPanel from './AssessmentPanel.vue'
import RefundPanel from './RefundPanel.vue'

const server = vi.hoisted(() => ({ answers: {} as Record<string, unknown>, asked: [] as [string, unknown][] }))
vi.mock('vue-router', () => ({ useRoute: () => ({ params: { token: 'abc' } }) }))
vi.mock('../../api/client', () => {
  const act = (method: string) => (path: string, options: { body?: unknown }) => {
    server.asked.push([`${method} ${path}`, options?.body])
    const answer = server.answers[`${method} ${path}`]
    return answer instanceof Error ? Promise.reject(answer) : Promise.resolve(answer)
  }
  return {
    call: async (pending: unknown) => pending,
    fileBody: (file: Blob) => ({ body: file }),
    api: { GET: act('GET'), POST: act('POST'), PUT: act('PUT') },
  }
})

const store = {
  id: 4,
  balance: '-15300',
  layout: { forms: [{ key: 'payout', sections: [{ lines: [{ key: 'payout.bank', choices: null }] }] }] },
  view: { value: { clientId: 7, year: 2025, currency: 'KES' } },
  valueOf: () => ({ value: 'Harbour Lamp Bank' }),
  placeOfLine: (line: string) => `/returns/4/fill?line=${line}`,
}
const global = {
  provide: { return: store },
  stubs: {
    'router-link': { template: '<a><slot /></a>' },
    'v-text-field': {
      props: ['modelValue', 'label'],
      emits: ['update:modelValue'],
      template:
        '<input :aria-label="label" :value="modelValue" @input="$emit(\'update:modelValue\', $event.target.value)" />',
    },
    'v-btn': { template: '<button type="button"><slot /></button>' },
    BrandMark: true,
  },
}
const open = async (component: object, props: object = {}) => {
  const wrapper = mount(component, { props, global, attachTo: document.body })
  await flushPromises()
  return wrapper
}
const typed = (wrapper: Awaited<ReturnType<typeof open>>, label: string, text: string) =>
  wrapper.get(`input[aria-label="${label}"]`).setValue(text)
const asked = (path: string) => server.asked.filter(([to]) => to === path).map(([, body]) => body)

beforeEach(() => {
  setActivePinia(createPinia())
  const person = { name: 'Mosi', mayPrepare: true, mayApprove: true, mayManage: true }
  useSession().view = { today: '2026-06-18', person } as never
  server.asked = []
  server.answers = {}
  document.body.innerHTML = ''
})

describe('what the authority says after acceptance', () => {
  const assessment = {
    number: 'N-1',
    issuedOn: '2026-06-18',
    agreeing: 5,
    differences: [
      {
        label: 'Tax already paid',
        line: 'balance.already-paid',
        filed: '100',
        assessed: '90',
        difference: '-10',
        reason: 'Not traced.',
      },
      { label: 'Balance', line: 'balance.balance', filed: '-100', assessed: '-90', difference: '10', reason: null },
    ],
    objection: null,
  }
  const verification = {
    number: 'V-1',
    dueOn: '2026-07-09',
    state: 'open',
    documents: [{ code: 'payment', label: 'Proof of payments', sent: [] }],
  }

  it('is asked for on demand while there is none', async () => {
    server.answers = {
      'GET /api/returns/{id}/after': {},
      'POST /api/returns/{id}/after/ask': { assessment: { ...assessment, differences: [] } },
    }
    const wrapper = await open(AssessmentPanel)
    expect(wrapper.text()).toContain('None yet')
    await wrapper.get('button').trigger('click')
    await flushPromises()
    expect(wrapper.text()).toContain('assessed the return as filed: 5 figures agree')
  })

  it('stands beside the return, and is objected to with a reason', async () => {
    server.answers = {
      'GET /api/returns/{id}/after': { assessment },
      'POST /api/returns/{id}/after/objection': {
        assessment: { ...assessment, objection: { number: 'O-1', madeBy: 'Mosi', reason: 'At hand.' } },
      },
    }
    const wrapper = await open(AssessmentPanel)
    expect(wrapper.text()).toContain('2 figures of 7 differ')
    expect(wrapper.findAll('tbody tr').map((row) => row.text())).toEqual([
      expect.stringMatching(/Tax already paid.*Not traced\..*100.*90.*\(10\)/),
      expect.stringMatching(/Balance.*\(100\).*\(90\).*10/),
    ])
    await typed(wrapper, 'Why the assessment is objected to', 'The certificates are at hand.')
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked('POST /api/returns/{id}/after/objection')).toEqual([{ reason: 'The certificates are at hand.' }])
    expect(wrapper.text()).toContain('Objected as O-1 by Mosi: At hand.')
  })

  it('asks for documents, which are attached under their kind and sent', async () => {
    const sent = { ...verification, documents: [{ ...verification.documents[0], sent: ['slip.pdf'] }] }
    server.answers = {
      'GET /api/returns/{id}/after': { verification },
      'POST /api/clients/{id}/documents': [{ id: 3 }, { id: 9 }],
      'POST /api/returns/{id}/after/documents': { verification: sent },
    }
    const wrapper = await open(AssessmentPanel)
    wrapper.getComponent(FileLink).vm.$emit('chosen', [new File(['x'], 'slip.pdf')])
    await flushPromises()
    expect(asked('POST /api/returns/{id}/after/documents')).toEqual([{ code: 'payment', document: 9 }])
    expect(wrapper.text()).toContain('slip.pdf')
  })

  it('shows what went wrong in words', async () => {
    server.answers = { 'GET /api/returns/{id}/after': new Error('The authority cannot be reached.') }
    expect((await open(AssessmentPanel)).get('[role=alert]').text()).toBe('The authority cannot be reached.')
  })
})

describe('money', () => {
  it('that is awaited back: claimed, to which account, received so far', async () => {
    const payments = [{ id: 1, paidOn: '2026-06-10', amount: '300', reference: 'B-1' }]
    server.answers = { 'GET /api/returns/{id}/payments': { balance: '-15300', paid: '300', payments } }
    const wrapper = await open(RefundPanel)
    expect(wrapper.text()).toContain('15,300 KES')
    expect(wrapper.text()).toContain('Harbour Lamp Bank')
    expect(wrapper.get('[data-awaited]').text()).toBe('15,000')
  })

  it('of many returns: a statement is matched and what fits nothing is told', async () => {
    const remarks = [{ row: 4, column: 'Reference', value: 'RF00', message: 'No return has this reference.' }]
    server.answers = { 'POST /api/payments/match': { rows: 3, matched: 1, known: 1, remarks } }
    const wrapper = await open(PaymentTools, { chosen: [4] })
    const input = wrapper.get('input[aria-label="Bank statement"]')
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'statement.csv')] })
    await input.trigger('change')
    await flushPromises()
    expect(wrapper.text()).toContain('3 rows: 1 payment recorded, 1 known before.')
    expect(wrapper.text()).toContain('Row 4, RF00: No return has this reference.')
    expect(wrapper.emitted('changed')).toHaveLength(1)
  })

  it('of nothing chosen makes no file', async () => {
    const wrapper = await open(PaymentTools, { chosen: [] })
    expect(wrapper.get('button[type=submit]').attributes('disabled')).toBeDefined()
  })
})

describe('a client', () => {
  const copy = {
    practice: 'Lantern Reef',
    client: 'Zuri',
    title: 'Return',
    period: '2025',
    kind: 'original',
    currency: 'KES',
    figures: [
      { label: 'Income', amount: '1140000' },
      { label: 'Balance', amount: '-27680.4' },
    ],
    balanceWords: 'Refund',
    approvedAt: '2026-06-18T08:00:00Z',
    answer: null,
  }

  it('looks at the return and answers once', async () => {
    server.answers = {
      'GET /api/acceptance/{token}': copy,
      'POST /api/acceptance/{token}': { ...copy, answer: 'refused', answeredAt: '2026-06-18T09:00:00Z' },
    }
    const wrapper = await open(AcceptPage)
    expect(wrapper.get('.last').text()).toMatch(/Refund\s*27,680\.40\s*KES/)
    await typed(wrapper, 'Your name', 'Zuri')
    await typed(wrapper, 'Remark; needed when something is not right', 'Old telephone')
    await wrapper.findAll('button')[1]!.trigger('click')
    await flushPromises()
    expect(asked('POST /api/acceptance/{token}')).toEqual([{ accept: false, name: 'Zuri', remark: 'Old telephone' }])
    expect(wrapper.get('[role=status]').text()).toContain('You refused this return')
    expect(wrapper.find('form').exists()).toBe(false)
  })

  it('is told when the link is dead', async () => {
    server.answers = { 'GET /api/acceptance/{token}': new Error('This link works no longer.') }
    const wrapper = await open(AcceptPage)
    expect(wrapper.get('[role=alert]').text()).toBe('This link works no longer.')
    expect(wrapper.find('h1').exists()).toBe(false)
  })

  it('has everything open on one page', async () => {
    const matter = { returnId: 4, title: 'Return 2024', words: 'w', day: '2025-04-30', days: -414, step: 'after' }
    server.answers = { 'GET /api/clients/{id}/standing': [{ ...matter, kind: 'unpaid' }] }
    const wrapper = await open(StandingPanel, { clientId: 7 })
    expect(wrapper.get('section[aria-label="Not paid"] .late').text()).toBe('30 Apr 2025, 414 days late')
    expect(wrapper.get('section[aria-label="Not filed"]').text()).toContain('has been filed')
  })
})

describe('a practice', () => {
  it('makes its rules of approval', async () => {
    const rules = { fourEyes: true, secondFrom: '100000', clientAccepts: false, secondFor: [] }
    server.answers = {
      'GET /api/practice/approval-rules': rules,
      'GET /api/return-types': [{ id: 'ke/employment-income', title: 'Kenya' }],
      'PUT /api/practice/approval-rules': { ...rules, clientAccepts: true },
    }
    const wrapper = await open(ApprovalRulesPanel)
    expect(wrapper.get<HTMLInputElement>('input[type=text]').element.value).toBe('100,000')
    await wrapper.findAll('input[type=checkbox]')[1]!.setValue(true)
    await wrapper.get('fieldset input').setValue(true)
    await wrapper.get('form').trigger('submit')
    await flushPromises()
    expect(asked('PUT /api/practice/approval-rules')).toMatchObject([
      { clientAccepts: true, fourEyes: true, secondFor: ['ke/employment-income'] },
    ])
    expect(wrapper.get('[role=status]').text()).toBe('kept')
  })

  it('sees what a newer schema changes before turning it on', async () => {
    const edition = { path: 'ke/employment-income/2025.xsd', cameFrom: 'authority', cameAt: '2026-06-18T08:00:00Z' }
    const editions = [
      { ...edition, sha256: 'b'.repeat(64), inUse: false },
      { ...edition, sha256: 'a'.repeat(64), inUse: true, turnedOnBy: 'first edition' },
    ]
    server.answers = {
      'GET /api/practice/schemas': editions,
      'POST /api/practice/schemas/try': {
        changes: [{ kind: 'tightened', path: '/R/Name', words: 'maxLength free before, 5 now' }],
        tried: 3,
        refused: [{ returnId: 4, client: 'Zuri', title: 'Return 2025', first: 'The name is too long.' }],
      },
      'POST /api/practice/schemas/turn-on': [{ ...editions[0], inUse: true }],
    }
    const wrapper = await open(SchemasPanel)
    expect(wrapper.findAll('.amount .link')).toHaveLength(2)
    await wrapper.findAll('.amount .link')[0]!.trigger('click')
    await flushPromises()
    expect(wrapper.text()).toContain('tightened /R/Name: maxLength free before, 5 now')
    expect(wrapper.text()).toContain('Tried on 3 returns under way: 1 would be refused')
    await wrapper.findAll('.amount .link')[1]!.trigger('click')
    await flushPromises()
    expect(asked('POST /api/practice/schemas/turn-on')).toEqual([{ path: edition.path, sha256: 'b'.repeat(64) }])
    expect(wrapper.text()).toContain('in use')
  })
})
