import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, call } from '../api/client'
import { released } from './press'

const on = (selector: string) => document.querySelector(selector)!
const point = (type: string, at: EventTarget) => at.dispatchEvent(new Event(type, { bubbles: true }))

async function isReleased() {
  let free = false
  void released().then(() => (free = true))
  await Promise.resolve()
  await Promise.resolve()
  return free
}

describe('a button being pressed', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    document.body.innerHTML = '<input /><button><b>Add payer</b></button><a href="#">Next</a>'
  })
  afterEach(() => {
    vi.runAllTimers()
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })

  it.each(['b', 'button', 'a'])('holds until %s is released and has acted', async (selector) => {
    expect(await isReleased()).toBe(true)
    point('pointerdown', on(selector))
    expect(await isReleased()).toBe(false)
    point('pointerup', on(selector))
    expect(await isReleased()).toBe(false)
    vi.advanceTimersByTime(0)
    expect(await isReleased()).toBe(true)
  })

  it('is not a press into a field: what was typed before shows at once', async () => {
    point('pointerdown', on('input'))
    expect(await isReleased()).toBe(true)
  })

  it('is not a press of another button of the mouse, whose release the menu it opens may swallow', async () => {
    on('button').dispatchEvent(new MouseEvent('pointerdown', { bubbles: true, button: 2 }))
    expect(await isReleased()).toBe(true)
  })

  it('is not over because the field that was left lost the cursor', async () => {
    on('input').dispatchEvent(new Event('focus'))
    point('pointerdown', on('button'))
    on('input').dispatchEvent(new Event('blur'))
    vi.advanceTimersByTime(0)
    expect(await isReleased()).toBe(false)
  })

  it.each([
    ['the gesture becomes another', () => point('pointercancel', document)],
    ['the window loses the focus', () => window.dispatchEvent(new Event('blur'))],
    ['its release was never seen', () => vi.advanceTimersByTime(2000)],
  ])('is over when %s', async (_why, ends) => {
    point('pointerdown', on('button'))
    ends()
    vi.advanceTimersByTime(0)
    expect(await isReleased()).toBe(true)
  })

  it('keeps an answer of the server back, whether good or bad', async () => {
    vi.stubGlobal('fetch', () => Promise.resolve(new Response('{}', { status: 200 })))
    point('pointerdown', on('button'))
    let answered = 0
    const good = call(api.GET('/api/session') as never).then(() => answered++)
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no route')))
    const bad = call(api.GET('/api/session') as never).catch(() => answered++)
    await vi.advanceTimersByTimeAsync(500)
    expect(answered).toBe(0)
    point('pointerup', on('button'))
    await vi.advanceTimersByTimeAsync(0)
    await Promise.all([good, bad])
    expect(answered).toBe(2)
  })
})
