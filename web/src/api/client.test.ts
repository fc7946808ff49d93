import { afterEach, describe, expect, it, vi } from 'vitest'
import { api, call, Problem, Unreachable, useToken } from './client'

const answer = (status: number, body: object) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })
const change = () =>
  api.PATCH('/api/returns/{id}/entries', { params: { path: { id: 7 } }, body: { changes: [] } }) as never

describe('calls to the server', () => {
  afterEach(() => vi.unstubAllGlobals())

  it('leave at once, before anything that waits is drawn, with the antiforgery token', async () => {
    const sent: Request[] = []
    vi.stubGlobal('fetch', (request: Request) => {
      sent.push(request)
      return Promise.resolve(answer(200, {}))
    })
    useToken('a-token')
    const pending = call(change())
    expect(sent.map((r) => [r.method, new URL(r.url).pathname])).toEqual([['PATCH', '/api/returns/7/entries']])
    expect(sent[0]!.headers.get('X-Aerarium-Token')).toBe('a-token')
    await pending
  })

  it('tell a server that cannot be reached from one that refuses in its own words', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no route')))
    await expect(call(change())).rejects.toBeInstanceOf(Unreachable)
    vi.stubGlobal('fetch', () => Promise.resolve(answer(422, { detail: 'This is no amount.', line: 'tax.due' })))
    const refused = await call(change()).catch((e: unknown) => e)
    expect(refused).toBeInstanceOf(Problem)
    expect(refused).toMatchObject({ status: 422, message: 'This is no amount.', line: 'tax.due' })
  })
})
