// A trial balance of 5,000 accounts in the browser: frames while the grid is scrolled, and from Enter on the item of an account to the new
// totals on screen. Prints percentiles of one run.
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'
import { percentiles } from './percentiles.mjs'

const address = process.argv[2]
const ACCOUNTS = 5_000
const FRAMES = 240
const EDITS = 60
const WARM_UP = 20
/** An expense, which profit rests on, and prepaid expenses, which it does not: each mapping moves the totals. */
const ITEMS = ['8810', '1484']

const browser = await chromium.launch(chromiumOptions)
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: address })).newPage()
await page.goto('/sign-in')
await page.getByLabel('E-mail address').fill('pia@lanternreef.example')
await page.getByLabel('Password').fill('reed-and-margin')
await page.getByRole('button', { name: 'Sign in' }).click()
await page.getByRole('heading', { name: 'Desk' }).waitFor()

const rows = Array.from(
  { length: ACCOUNTS },
  (_, n) => `${1_000 + n},Account ${n},${n % 2 ? -(100 + n) : 101 + n},${n % 2 ? '8000' : ITEMS[0]}`,
)
const id = await page.evaluate(
  async (body) => {
    const { token } = await (await fetch('/api/session')).json()
    const desk = await (await fetch('/api/desk?list=all&definition=ca%2Faccounts&search=Penhallow')).json()
    const found = desk.items.find((item) => item.stage === 'open').id
    await fetch(`/api/returns/${found}/lists/trial-balance.accounts/import?name=bench.csv&keep=all&replace=true`, {
      method: 'POST',
      body,
      headers: { 'X-Aerarium-Token': token, 'Content-Type': 'application/octet-stream' },
    })
    return found
  },
  `Account,Name,Balance,Goes to\n${rows.join('\n')}\n`,
)
await page.goto(`/returns/${id}/fill/trial-balance`)
await page.getByText(`${ACCOUNTS} accounts`).waitFor()
const grid = page.getByRole('grid', { name: 'Accounts', exact: true })
const frames = await grid.evaluate(
  (scroller, count) =>
    new Promise((resolve) => {
      const took = []
      let last = performance.now()
      const frame = () => {
        const now = performance.now()
        took.push(now - last)
        last = now
        scroller.scrollTop += 56
        if (took.length < count) requestAnimationFrame(frame)
        else resolve(took)
      }
      requestAnimationFrame(frame)
    }),
  FRAMES,
)
await grid.focus()
await page.keyboard.press('Control+Home')
const columns = await grid.locator('[role="columnheader"]').allTextContents()
for (let column = 1; column < columns.findIndex((c) => c.startsWith('Goes to')); column++)
  await page.keyboard.press('ArrowRight')

const times = []
for (let edit = 0; edit < WARM_UP + EDITS; edit++) {
  await page.keyboard.type(ITEMS[1])
  await page.waitForTimeout(250)
  times.push(
    await page.evaluate(
      () =>
        new Promise((resolve) => {
          const outcome = document.querySelector('[aria-label="Outcome"]')
          const before = outcome.textContent
          const started = performance.now()
          const watcher = new MutationObserver(() => {
            if (outcome.textContent === before) return
            watcher.disconnect()
            requestAnimationFrame(() => resolve(performance.now() - started))
          })
          watcher.observe(outcome, { subtree: true, characterData: true, childList: true })
          const enter = { key: 'Enter', bubbles: true, cancelable: true }
          document.activeElement.dispatchEvent(new KeyboardEvent('keydown', enter))
        }),
    ),
  )
  await page.waitForTimeout(150)
  // Every second account is an expense; the others are sales and stay where they are.
  await page.keyboard.press('ArrowDown')
}
times.splice(0, WARM_UP)
console.log(`a trial balance of ${ACCOUNTS} accounts, frames while it is scrolled: ${percentiles(frames.slice(1))}`)
console.log(
  `one account mapped otherwise in it, from Enter to the new totals on screen, after ${WARM_UP} to warm up: ${percentiles(times)}`,
)
await browser.close()
