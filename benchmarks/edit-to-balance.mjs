// From leaving a field to the new balance on screen, in Chromium against the published server; and the first page of a
// cold browser. With 'season' (the families of the demonstration are there) by turns with Canada's largest page, a
// household open beside it, and Germany's. By turns with them a reference: a bare page with one field that is sent to a
// bare endpoint, the answer painted. Prints percentiles of one run, and how many times the reference they are.
import { createServer } from 'node:http'
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

const BARE = `<!doctype html><title>Reference</title>
<input data-place="bare|"><input data-place="other|"><p data-balance><span class="sum"></span></p>
<script>
  document.querySelector('input').addEventListener('change', async (event) => {
    const body = JSON.stringify({ value: event.target.value })
    const answer = await fetch('/entry', { method: 'PATCH', headers: { 'Content-Type': 'application/json' }, body })
    document.querySelector('.sum').textContent = (await answer.json()).balance
  })
  document.querySelector('input').addEventListener('input', (event) => (event.target.dirty = true))
  document.querySelector('input').addEventListener('blur', (event) => {
    if (event.target.dirty) event.target.dispatchEvent(new Event('change'))
  })
</script>`

/** A bare page and its endpoint, which says back what it was sent. */
async function bare() {
  const server = createServer((request, response) => {
    let sent = ''
    request.on('data', (part) => (sent += part))
    request.on('end', () => {
      response.setHeader('Content-Type', request.method === 'PATCH' ? 'application/json' : 'text/html')
      response.end(request.method === 'PATCH' ? JSON.stringify({ balance: JSON.parse(sent).value }) : BARE)
    })
  })
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve))
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(`http://127.0.0.1:${server.address().port}/`)
  return { server, place: { name: 'the reference', page, field: 'bare', other: 'other', times: [] } }
}

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

const reference = await bare()
places.unshift(reference.place)
for (const one of places) {
  await one.page.bringToFront()
  await time(one, WARM_UP)
}
for (let turn = 0; turn < TURNS; turn++)
  for (const one of places) {
    await one.page.bringToFront()
    one.times.push(...(await time(one, EDITS / TURNS)))
  }
await browser.close()
reference.server.close()

const at = (times, share) => times[Math.min(times.length - 1, Math.floor(times.length * share))]
for (const { times } of places) times.sort((left, right) => left - right)
for (const { name, times } of places) {
  const [median, high] = [0.5, 0.95].map((share) => ({
    time: at(times, share),
    times: (at(times, share) / at(reference.place.times, share)).toFixed(2),
  }))
  console.log(
    `leaving a field to the new balance painted (${name}), ${EDITS} edits after ${WARM_UP} to warm up: median ${median.time.toFixed(1)} ms (${median.times} times the reference), 95th percentile ${high.time.toFixed(1)} ms (${high.times} times), slowest ${at(times, 1).toFixed(1)} ms`,
  )
}
