// From leaving a field to the new balance on screen, in Chromium against the published server; and the first page of a
// cold browser. Prints percentiles of one run.
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'

const address = process.argv[2]
const EDITS = 200
const WARM_UP = 40

const started = performance.now()
const browser = await chromium.launch(chromiumOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(address)
await page.getByLabel('E-mail address').waitFor()
console.log(`cold browser start to a usable first page: ${((performance.now() - started) / 1000).toFixed(2)} s`)

await page.getByLabel('E-mail address').fill('rukia@lanternreef.example')
await page.getByLabel('Password').fill('kelp-and-ledger')
await page.getByRole('button', { name: 'Sign in' }).click()
await page.getByRole('link', { name: 'Njeri Halvorsen Oduya' }).first().waitFor()
await page.goto(`${address}/returns/2/fill/deductions`)
await page.locator('[data-place^="deductions.loans.interest|"]').waitFor()

const times = await page.evaluate(async (edits) => {
  const field = document.querySelector('[data-place^="deductions.loans.interest|"]')
  const other = document.querySelector('[data-place="deductions.mortgage-months|"]')
  const strip = document.querySelector('[data-balance] .sum')
  const painted = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
  const list = []
  for (let edit = 0; edit < edits; edit++) {
    field.focus()
    await painted()
    const before = strip.textContent
    field.value = String(100000 + edit * 7)
    field.dispatchEvent(new Event('input', { bubbles: true }))
    await painted()
    const left = performance.now()
    const moved = new Promise((resolve) => {
      const watch = new MutationObserver(() => {
        if (strip.textContent !== before) {
          watch.disconnect()
          requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - left)))
        }
      })
      watch.observe(strip, { characterData: true, childList: true, subtree: true })
    })
    other.focus()
    list.push(await moved)
    await new Promise((resolve) => setTimeout(resolve, 30))
  }
  return list
}, EDITS + WARM_UP)
await browser.close()

times.splice(0, WARM_UP)
times.sort((left, right) => left - right)
const at = (share) => times[Math.min(times.length - 1, Math.floor(times.length * share))].toFixed(1)
console.log(
  `leaving a field to the new balance painted, ${EDITS} edits after ${WARM_UP} to warm up: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, slowest ${at(1)} ms`,
)
