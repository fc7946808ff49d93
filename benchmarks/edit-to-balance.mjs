// From leaving a field to the new balance on screen, in Chromium against the published server; and the first page of a
// cold browser. With 'season' (the families of the demonstration are there) by turns with Canada's largest page, a
// household open beside it, and Germany's. Prints percentiles of one run.
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'

const [address, season] = process.argv.slice(2)
const EDITS = 200
const WARM_UP = 40
const TURNS = 5

const started = performance.now()
const browser = await chromium.launch(chromiumOptions)

async function signIn(mail, password) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  await page.goto(address)
  await page.getByLabel('E-mail address').waitFor()
  if (mail.startsWith('rukia'))
    console.log(`cold browser start to a usable first page: ${((performance.now() - started) / 1000).toFixed(2)} s`)
  await page.getByLabel('E-mail address').fill(mail)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('heading', { name: 'Desk' }).waitFor()
  return page
}

/** Opens a page of a return, and says how to time edits of a field there, leaving it for another. */
async function place(name, page, path, field, other) {
  await page.goto(address + path)
  await page.locator(`[data-place^="${field}|"]`).first().waitFor()
  return { name, page, field, other, times: [] }
}

const time = ({ page, field, other }, edits) =>
  page.evaluate(
    async ({ fieldKey, otherKey, edits }) => {
      const field = document.querySelector(`[data-place^="${fieldKey}|"]`)
      const other = document.querySelector(`[data-place^="${otherKey}|"]`)
      const strip = document.querySelector('[data-balance] .sum')
      const painted = () => new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
      const list = []
      for (let edit = 0; edit < edits; edit++) {
        field.focus()
        await painted()
        const before = strip.textContent
        field.value = String(60000 + Math.round(Math.random() * 30000))
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
    },
    { fieldKey: field, otherKey: other, edits },
  )

const rukia = await signIn('rukia@lanternreef.example', 'kelp-and-ledger')
const places = [
  await place(
    'Kenya, deductions',
    rukia,
    '/returns/2/fill/deductions',
    'deductions.loans.interest',
    'deductions.mortgage-months',
  ),
]
if (season) {
  const pia = await signIn('pia@lanternreef.example', 'reed-and-margin')
  const found = await (await pia.request.get(`${address}/api/clients?search=Ottoline`)).json()
  const client = found.items[0].id
  const household = await (await pia.request.get(`${address}/api/clients/${client}/household/2025`)).json()
  const german = (await (await pia.request.get(`${address}/api/clients?search=Tjorven`)).json()).items[0].id
  const returns = await (await pia.request.get(`${address}/api/clients/${german}`)).json()
  const beside = await pia.context().newPage()
  await beside.goto(`${address}/households/${client}/2025`)
  await beside.getByText('Shared claims').waitFor()
  await pia.bringToFront()
  places.push(
    await place(
      'Canada, employment, the household open beside it',
      pia,
      `/returns/${household.members[0].returnId}/fill/employment`,
      'employment.slips.income',
      'employment.slips.tax',
    ),
    await place(
      'Germany, wages',
      await pia.context().newPage(),
      `/returns/${returns.returns[0].id}/fill/wages`,
      'wages.statements.gross',
      'wages.statements.wage-tax',
    ),
  )
}

for (const one of places) await time(one, WARM_UP)
for (let turn = 0; turn < TURNS; turn++)
  for (const one of places) {
    await one.page.bringToFront()
    one.times.push(...(await time(one, EDITS / TURNS)))
  }
await browser.close()

for (const { name, times } of places) {
  times.sort((left, right) => left - right)
  const at = (share) => times[Math.min(times.length - 1, Math.floor(times.length * share))].toFixed(1)
  console.log(
    `leaving a field to the new balance painted (${name}), ${EDITS} edits after ${WARM_UP} to warm up: median ${at(0.5)} ms, 95th percentile ${at(0.95)} ms, slowest ${at(1)} ms`,
  )
}
