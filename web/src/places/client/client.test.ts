import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { useSession } from '../../session'
import ImportReport from '../../shared/ImportReport.vue'
import ReturnMatrix from './ReturnMatrix.vue'

const push = vi.fn()
vi.mock('vue-router', () => ({ useRouter: () => ({ push }) }))
const post = vi.hoisted(() => vi.fn())
vi.mock('../../api/client', () => ({
  api: { POST: (...request: unknown[]) => post(...request) },
  call: async (pending: Promise<unknown>) => pending,
}))

const client = { id: 7, country: 'ke', kind: 'individual' } as Schemas['ClientRecord']
const types: Schemas['ReturnTypeView'][] = [
  {
    id: 'ke/one',
    title: 'One',
    country: 'ke',
    filedBy: 'individual',
    years: [2024, 2025],
    periods: [''],
    furtherPeriod: null,
    isFiled: true,
  },
  {
    id: 'ph/two',
    title: 'Two',
    country: 'ph',
    filedBy: 'individual',
    years: [2025],
    periods: [''],
    furtherPeriod: null,
    isFiled: true,
  },
  {
    id: 'ke/three',
    title: 'Three',
    country: 'ke',
    filedBy: 'company',
    years: [2025],
    periods: [''],
    furtherPeriod: null,
    isFiled: true,
  },
]
const item = (year: number, stage: string, kind = 'original'): Schemas['ClientReturnItem'] => ({
  id: year,
  definition: 'ke/one',
  title: 'One',
  year,
  period: '',
  kind,
  stage,
  balance: '0',
  currency: 'KES',
})

function matrix(returns: Schemas['ClientReturnItem'][], mayPrepare = true, its = client) {
  const session = useSession()
  session.view = { person: { mayPrepare } } as never
  return mount(ReturnMatrix, {
    props: { client: its, returns, types },
    global: { stubs: { RouterLink: { template: '<a><slot /></a>' } } },
  })
}

describe('the matrix of years by return types', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    push.mockReset()
    post.mockReset().mockResolvedValue({ id: 99 })
  })

  it('offers the return types of the country and the kind of client only', () => {
    const text = matrix([]).text()
    expect(text).toContain('One')
    expect(text).not.toContain('Two')
    expect(text).not.toContain('Three')
    const company = matrix([], true, { ...client, kind: 'company' } as never).text()
    expect(company).toContain('Three')
    expect(company).not.toContain('One')
  })

  it('asks about older years that are not filed before it opens a later one', async () => {
    const wrapper = matrix([])
    await wrapper
      .findAll('button')
      .find((b) => b.text() === 'Open 2025')!
      .trigger('click')
    expect(wrapper.get('[role="alert"]').text()).toContain('2024 has not been filed')
    expect(post).not.toHaveBeenCalled()
    await wrapper
      .findAll('button')
      .find((b) => b.text().includes('all the same'))!
      .trigger('click')
    await flushPromises()
    expect(post).toHaveBeenCalledWith('/api/clients/{clientId}/returns', {
      params: { path: { clientId: 7 } },
      body: { definition: 'ke/one', year: 2025, period: '', kind: 'original' },
    })
    expect(push).toHaveBeenCalledWith('/returns/99/scope')
  })

  it('shows the latest years and those with a return, and the others when asked', async () => {
    useSession().view = { person: { mayPrepare: true } } as never
    const wrapper = mount(ReturnMatrix, {
      props: {
        client,
        returns: [item(2019, 'accepted')],
        types: [{ ...types[0]!, years: [2018, 2019, 2020, 2021, 2022, 2023, 2024, 2025] }],
      },
      global: { stubs: { RouterLink: { template: '<a><slot /></a>' } } },
    })
    const heads = () => wrapper.findAll('th').map((h) => h.text())
    expect(heads()).toEqual(['Return', '2025', '2024', '2023', '2019'])
    const button = () => wrapper.findAll('button').find((b) => b.text().includes('earlier years'))!
    expect(button().text()).toBe('Show earlier years, from 2018')
    await button().trigger('click')
    expect(heads()).toHaveLength(9)
    expect(button().text()).toBe('Hide earlier years')
    await wrapper
      .findAll('button')
      .find((b) => b.text() === 'Open 2023')!
      .trigger('click')
    expect(wrapper.get('[role="alert"]').text()).toContain('2018 and 2020 and 2021 and 2022 have not been filed')
  })

  it('rolls forward from last year once that is filed', async () => {
    const wrapper = matrix([item(2024, 'accepted')])
    await wrapper
      .findAll('button')
      .find((b) => b.text() === 'roll forward')!
      .trigger('click')
    await flushPromises()
    expect(post).toHaveBeenCalledWith('/api/returns/{id}/roll-forward', { params: { path: { id: 2024 } } })
  })

  it('offers to amend what was accepted, and not while an amendment is open', () => {
    expect(matrix([item(2024, 'accepted')]).text()).toContain('amend 2024')
    expect(matrix([item(2024, 'accepted'), item(2024, 'open', 'amended')]).text()).not.toContain('amend 2024')
    expect(matrix([item(2024, 'sent')]).text()).not.toContain('amend 2024')
  })

  it('offers a second period once the first is there, and rolls forward from the last of the year', async () => {
    const books = types.map((t) => ({ ...t, furtherPeriod: 'second' }))
    const of = (returns: Schemas['ClientReturnItem'][]) => {
      useSession().view = { person: { mayPrepare: true } } as never
      return mount(ReturnMatrix, {
        props: { client, returns, types: books },
        global: { stubs: { RouterLink: { template: '<a><slot /></a>' } } },
      })
    }
    expect(of([]).text()).not.toContain('second period')
    expect(of([item(2024, 'accepted')]).text()).toContain('Open a second period')
    const both = of([item(2024, 'accepted'), { ...item(2024, 'open'), id: 5, period: 'second' }])
    expect(both.text()).toContain('second period')
    expect(both.text()).not.toContain('Open a second period')
    await both
      .findAll('button')
      .find((b) => b.text() === 'roll forward')!
      .trigger('click')
    await flushPromises()
    expect(post).toHaveBeenCalledWith('/api/returns/{id}/roll-forward', { params: { path: { id: 5 } } })
  })

  it('offers nothing to who only looks', () => {
    expect(matrix([item(2024, 'accepted')], false).findAll('button')).toHaveLength(0)
  })

  it('says what was refused', async () => {
    post.mockRejectedValue(new Error('There is one already.'))
    const wrapper = matrix([item(2024, 'accepted')])
    await wrapper
      .findAll('button')
      .find((b) => b.text() === 'Open 2025')!
      .trigger('click')
    await flushPromises()
    expect(wrapper.get('[role="alert"]').text()).toBe('There is one already.')
  })
})

describe('the report of an import', () => {
  const report = (more: Partial<Schemas['ImportReport']>) =>
    mount(ImportReport, {
      props: {
        report: { rows: 3, good: 3, stored: 0, problems: [], doubts: [], ignored: [], ...more },
        what: 'client',
        busy: false,
      },
      global: { stubs: { VBtn: { template: '<button><slot /></button>' } } },
    })

  it('offers all rows when nothing is wrong, and the good ones otherwise', async () => {
    const all = report({})
    await all.get('button').trigger('click')
    expect(all.emitted('keep')).toEqual([['all']])
    const some = report({ good: 2, problems: [{ row: 2, column: 'Name', value: null, message: 'missing' }] })
    expect(some.get('button').text()).toBe('Add the 2 valid rows only')
    await some.get('button').trigger('click')
    expect(some.emitted('keep')).toEqual([['good']])
    expect(
      report({ good: 0, problems: [{ row: 2, column: 'Name', value: null, message: 'missing' }] })
        .find('button')
        .exists(),
    ).toBe(false)
  })

  it('tells problems before doubts, by row and column, and what it does not take', () => {
    const text = report({
      problems: [{ row: 4, column: 'PIN', value: 'A1', message: 'nine digits' }],
      doubts: [{ row: 2, column: 'Name', value: 'N', message: 'is it the same?' }],
      ignored: ['Shoe size'],
    }).text()
    expect(text.indexOf('nine digits')).toBeLessThan(text.indexOf('is it the same?'))
    expect(text).toContain('Not taken: Shoe size.')
  })
})
