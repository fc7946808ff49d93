import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../api/client'
import { Problem, Unreachable } from '../api/client'
import { EditQueue } from './editQueue'

const send = vi.hoisted(() => vi.fn())
vi.mock('../api/client', async (original) => ({
  ...(await original<typeof import('../api/client')>()),
  api: { PATCH: (_: string, options: { body: { changes: unknown[] } }) => options.body.changes },
  call: send,
}))

const change = (value: string): Schemas['EntryChange'] => ({
  kind: 'set',
  line: 'form.line',
  row: null,
  section: null,
  position: null,
  value,
  seen: 1,
})
const settled = () => new Promise((resolve) => setTimeout(resolve))
const kept = new Map<string, string>()
vi.stubGlobal('localStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
  removeItem: (key: string) => kept.delete(key),
})

describe('edits on their way', () => {
  const results: unknown[] = []
  const problems: Problem[] = []
  const open = (person = 3, back = () => {}) =>
    new EditQueue(
      7,
      person,
      (result) => results.push(result),
      (problem) => problems.push(problem),
      back,
    )

  beforeEach(() => {
    kept.clear()
    results.length = problems.length = 0
    send.mockReset()
    vi.useRealTimers()
  })

  it('keeps what the server does not have yet, and lets go of the rest', async () => {
    let answer: (result: unknown) => void = () => {}
    send.mockImplementationOnce(() => new Promise((resolve) => (answer = resolve))).mockResolvedValue({ savedAt: 't2' })
    const queue = open()
    queue.push([change('1')])
    queue.push([change('2')])
    expect(queue.waiting.value).toBe(2)
    expect(send).toHaveBeenCalledTimes(1)
    answer({ savedAt: 't1' })
    await settled()
    expect(send).toHaveBeenCalledTimes(2)
    expect(queue.waiting.value).toBe(0)
    expect(kept.size).toBe(0)
    expect(results.length).toBe(2)
  })

  it('keeps edits over a lost connection, in order, and sends them again', async () => {
    vi.useFakeTimers()
    send.mockRejectedValueOnce(new Unreachable('no')).mockResolvedValue({ savedAt: 't' })
    const queue = open()
    queue.push([change('1'), change('2')])
    await vi.advanceTimersByTimeAsync(10)
    expect(queue.offline.value).toBe(true)
    expect(JSON.parse(kept.get('aerarium-unsent-3-7')!).map((c: { value: string }) => c.value)).toEqual(['1', '2'])
    await vi.advanceTimersByTimeAsync(2000)
    expect(queue.offline.value).toBe(false)
    expect(queue.waiting.value).toBe(0)
  })

  it('settles once the server has everything, what was typed meanwhile included', async () => {
    let answer: (result: unknown) => void = () => {}
    send.mockImplementationOnce(() => new Promise((resolve) => (answer = resolve))).mockResolvedValue({ savedAt: 't2' })
    const queue = open()
    await queue.settled()
    queue.push([change('1')])
    queue.push([change('2')])
    const settling = queue.settled().then(() => results.length)
    answer({ savedAt: 't1' })
    expect(await settling).toBe(2)
  })

  it('does not settle while the server cannot be reached, and says so', async () => {
    vi.useFakeTimers()
    send.mockRejectedValueOnce(new Unreachable('no')).mockResolvedValue({ savedAt: 't' })
    const queue = open()
    queue.push([change('1')])
    await expect(queue.settled()).rejects.toThrow('One change has not reached the server yet')
    await expect(queue.settled()).rejects.toThrow(Unreachable)
    await vi.advanceTimersByTimeAsync(2000)
    await queue.settled()
    expect(results.length).toBe(1)
  })

  it('finds them again after the page was closed', () => {
    kept.set('aerarium-unsent-3-7', JSON.stringify([change('9')]))
    expect(open().unsent.map((c) => c.value)).toEqual(['9'])
    expect(open(4).unsent).toEqual([])
  })

  it('keeps edits while nobody is signed in', async () => {
    send.mockRejectedValue(new Problem(401, 'Sign in.'))
    const queue = open()
    queue.push([change('1')])
    await settled()
    queue.stop()
    expect(problems).toEqual([])
    expect(open().unsent.map((c) => c.value)).toEqual(['1'])
  })

  it('loses nothing that is typed while the return is read anew', async () => {
    vi.useFakeTimers()
    send.mockRejectedValueOnce(new Unreachable('no')).mockResolvedValue({ savedAt: 't' })
    const queue = open(3, () => queue.push([change('2')]))
    queue.push([change('1')])
    await queue.flush()
    await vi.advanceTimersByTimeAsync(2000)
    expect(send.mock.calls.map(([changes]) => (changes as { value: string }[]).map((c) => c.value))).toEqual([
      ['1'],
      ['1'],
      ['2'],
    ])
    expect(queue.waiting.value).toBe(0)
  })

  it('tells what the server refuses and goes on', async () => {
    send.mockRejectedValueOnce(new Problem(409, 'It was sent.')).mockResolvedValue({ savedAt: 't' })
    const queue = open()
    queue.push([change('1')])
    await settled()
    expect(problems.map((p) => p.message)).toEqual(['It was sent.'])
    queue.push([change('2')])
    await settled()
    expect(results.length).toBe(1)
  })
})
