// A list of 5,000 certificates in the browser: from Enter in a cell to the new totals on screen. Prints percentiles of one run.
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'
import { percentiles } from './percentiles.mjs'

const address = process.argv[2]
const ROWS = 5_000
const EDITS = 60
const WARM_UP = 20
const RATES = { WI010: 5, WI100: 5, WI120: 2, WI158: 1, WI160: 2 }
const CODES = Object.keys(RATES)

const browser = await chromium.launch(chromiumOptions)
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: address })).newPage()
await page.goto('/sign-in')
await page.getByLabel('E-mail address').fill('rukia@lanternreef.example')
await page.getByLabel('Password').fill('kelp-and-ledger')
await page.getByRole('button', { name: 'Sign in' }).click()
await page.getByRole('heading', { name: 'Desk' }).waitFor()

const rows = Array.from({ length: ROWS }, (_, n) => {
  const code = CODES[n % CODES.length]
  const month = 1000 + n
  const tax = ((month * 3 * RATES[code]) / 100).toFixed(2)
  return `${100_000_000 + n}00000,Payer ${n},${code},${month},${month},${month},${tax},yes`
})
const file = `Payer's number,Payer,Code,1st month,2nd month,3rd month,Tax withheld,At hand?\n${rows.join('\n')}\n`
const imported = await page.evaluate(async (body) => {
  const { token } = await (await fetch('/api/session')).json()
  const desk = await (await fetch('/api/desk?list=all&definition=ph%2Fwithholding-credits&search=q1')).json()
  const id = desk.items[0].id
  const started = performance.now()
  const answer = await fetch(`/api/returns/${id}/lists/list.rows/import?name=bench.csv&keep=all&replace=true`, {
    method: 'POST',
    body,
    headers: { 'X-Aerarium-Token': token, 'Content-Type': 'application/octet-stream' },
  })
  return { id, ms: performance.now() - started, stored: (await answer.json()).stored }
}, file)

const opened = performance.now()
await page.goto(`/returns/${imported.id}/fill/list`)
await page.getByText(`${ROWS} certificates`).waitFor()
const openMs = performance.now() - opened
await page.getByRole('grid').focus()
await page.keyboard.press('Control+Home')
for (let column = 0; column < 3; column++) await page.keyboard.press('ArrowRight')

const times = []
for (let edit = 0; edit < WARM_UP + EDITS; edit++) {
  await page.keyboard.press('ArrowDown')
  await page.keyboard.type(String(20_000 + edit * 977))
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
  await page.waitForTimeout(250)
}
times.splice(0, WARM_UP)
console.log(
  `a list of ${imported.stored} rows: imported in ${Math.round(imported.ms)} ms, opened in ${Math.round(openMs)} ms`,
)
console.log(
  `one edit in it, from Enter to the new totals on screen, after ${WARM_UP} to warm up: ${percentiles(times)}`,
)
await browser.close()
