import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, signIn, test } from './servers'

const views: [string, string][] = [
  ['Desk', '/desk'],
  ['Clients', '/clients'],
  ['Client', '/clients/1'],
  ['New client', '/clients/new'],
  ['Documents', '/clients/1?view=documents'],
  ['Statements', '/clients/1?view=statements'],
  ['History', '/clients/1?view=history'],
  ['Export and deletion', '/clients/9?view=keeping'],
  ['Scope', '/returns/2/scope'],
  ['Fill, employment', '/returns/2/fill/employment'],
  ['Fill, deductions with the Margin', '/returns/2/fill/deductions?line=deductions.mortgage-allowed'],
  ['Review', '/returns/2/review'],
  ['Approve', '/returns/6/approve'],
  ['Send', '/returns/8/send'],
  ['After', '/returns/9/after'],
  ['Tax due in the Philippines', '/returns/15/fill/tax'],
  ['A list as a grid', '/returns/19/fill/list'],
  ['Alternatives', '/returns/15/review?view=alternatives'],
  ['Practice', '/practice'],
  ['Household', '/households/1/2025'],
  ['Law', '/law?return=de/individual&year=2025&figure=income-tax-tariff'],
  ['Likely refunds', '/desk/likely-refunds'],
  ['Season', '/desk/season'],
  ['Deductions as a list', '/returns/15/fill/deductions'],
  ['Acts', '/acts'],
  ['Account', '/account'],
]

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

const axe = (page: Page) => new AxeBuilder({ page }).options({ resultTypes: ['violations'] })

/** What axe finds, in words; what is right is not worked out in detail, and there are no frames to put together. */
async function violations(axe: AxeBuilder): Promise<string[]> {
  const { violations } = await axe.setLegacyMode().analyze()
  return violations.map((v) => `${v.id} at ${v.nodes.map((n) => `${n.target} ${n.any[0]?.message ?? ''}`).join('; ')}`)
}

test('every view meets WCAG 2.2 AA, its colours in the light and in the dark theme', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const ground = () => page.evaluate(() => getComputedStyle(document.querySelector('.v-application')!).backgroundColor)
  for (const [name, path] of views) {
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' })
    await page.goto(path)
    await page.waitForLoadState('networkidle')
    const light = await ground()
    expect([name, ...(await violations(axe(page).withTags(WCAG)))]).toEqual([name])
    await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' })
    await expect.poll(ground).not.toBe(light)
    expect([name, ...(await violations(axe(page).withRules(['color-contrast', 'link-in-text-block'])))]).toEqual([name])
  }
})

test('the people of the practice meet WCAG 2.2 AA', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'ines')
  await page.goto('/practice')
  await page.getByRole('button', { name: 'Invite somebody' }).click()
  await page.getByRole('button', { name: 'Change' }).first().click()
  await page.waitForTimeout(300)
  expect(await violations(axe(page).withTags(WCAG))).toEqual([])
})

test('the sign-in page meets WCAG 2.2 AA and refuses wrong credentials plainly', async ({ page, servers }) => {
  await page.goto(`${servers.address}/sign-in`)
  await page.getByLabel('E-mail address').fill('rukia@lanternreef.example')
  await page.getByLabel('Password').fill('wrong')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('alert')).toContainText('do not belong together')
  expect(await violations(axe(page).withTags(WCAG))).toEqual([])
})

test('no request leaves the machine, and nothing is logged as an error', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const elsewhere: string[] = []
  const errors: string[] = []
  page.on('request', (request) => {
    if (
      !request.url().startsWith(servers.address) &&
      !request.url().startsWith('data:') &&
      !request.url().startsWith('blob:')
    )
      elsewhere.push(request.url())
  })
  page.on('console', (message) => message.type() === 'error' && errors.push(message.text()))
  page.on('pageerror', (error) => errors.push(error.message))
  for (const [, path] of views) {
    await page.goto(path)
    await page.waitForLoadState('networkidle')
  }
  expect(elsewhere).toEqual([])
  expect(errors).toEqual([])
})

test('the console of the stand-in shows what arrived', async ({ page, servers }) => {
  await expect(async () => {
    await page.goto(servers.authority)
    await expect(page.getByRole('heading', { name: 'Simulated authority, not a real one' })).toBeVisible()
    await expect(page.getByText('NAME: The name does not belong to').first()).toBeVisible({ timeout: 500 })
  }).toPass()
  await page.getByRole('button', { name: 'Take the service down' }).click()
  await expect(page.getByText('Service: DOWN')).toBeVisible()
  await page.getByRole('button', { name: 'Restore the service' }).click()
  await expect(page.getByText('Service: up')).toBeVisible()
})
