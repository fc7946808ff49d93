// Takes docs/screenshots from a fresh demonstration: node scripts/screenshots.mjs http://127.0.0.1:5080
import { join } from 'node:path'
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'

const address = process.argv[2]
const folder = join(import.meta.dirname, '..', 'docs', 'screenshots')
const browser = await chromium.launch(chromiumOptions)

async function as(email, password) {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: address })).newPage()
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL('**/desk')
  return page
}

async function shot(page, name, path, before) {
  await page.goto(path)
  await page.waitForLoadState('networkidle')
  await before?.()
  await page.waitForTimeout(800)
  await page.screenshot({ path: join(folder, `${name}.png`) })
}

const rukia = await as('rukia@lanternreef.example', 'kelp-and-ledger')
await shot(rukia, 'desk', '/desk')
await shot(rukia, 'scope', '/returns/2/scope')
await shot(rukia, 'fill', '/returns/2/fill/deductions?line=deductions.mortgage-interest')
await shot(rukia, 'gathering', '/returns/5/fill/employment', async () => {
  await rukia.getByRole('button', { name: /Take from/ }).click()
  await rukia.getByText('Asking the authority').waitFor({ state: 'hidden' })
})
await shot(rukia, 'review', '/returns/2/review')
await shot(rukia, 'client', '/clients/1')
await shot(rukia, 'philippines', '/returns/15/fill/tax?line=tax.by-table')
const hers = await (await rukia.request.get('/api/desk?list=all&search=liwayway')).json()
const list = hers.items.find((item) => item.title.includes('list') && item.year === 2026 && item.period === 'q2')
await shot(rukia, 'list', `/returns/${list.id}/fill/list`, () => rukia.getByRole('grid').focus())
await shot(rukia, 'alternatives', '/returns/15/review?view=alternatives')
await shot(rukia, 'household', '/households/47/2025', () => rukia.getByText('Shared claims').waitFor())
await shot(rukia, 'pages', '/returns/27/fill/business')
await shot(rukia, 'accounts', '/returns/80/fill/trial-balance', () =>
  rukia.getByRole('button', { name: 'See each' }).click(),
)
const tarek = await as('tarek@lanternreef.example', 'buoy-and-calendar')
await shot(tarek, 'law', '/law?return=de/individual&year=2025&figure=income-tax-tariff', () =>
  tarek.getByText('figures verified').waitFor(),
)
await shot(tarek, 'acts', '/acts', async () => {
  await tarek.getByRole('button', { name: 'Verify every figure' }).click()
  await tarek.getByText('Verified, begun by').waitFor()
})
const ines = await as('ines@lanternreef.example', 'lamp-and-keyring')
await shot(ines, 'practice', '/practice', () => ines.getByRole('button', { name: 'Back up now' }).click())
const mosi = await as('mosi@lanternreef.example', 'tide-and-seal')
await shot(mosi, 'approve', '/returns/6/approve')
await shot(mosi, 'send', '/returns/9/send')
const desk = await (await mosi.request.get('/api/desk?list=all&search=kofi')).json()
await shot(mosi, 'after', `/returns/${desk.items[0].id}/after`, () =>
  mosi.getByRole('table').filter({ hasText: 'Difference' }).waitFor(),
)
const stranger = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const standIn = new URL(address)
standIn.port = String(Number(standIn.port) + 1)
await shot(stranger, 'standin', standIn.href)
await browser.close()
