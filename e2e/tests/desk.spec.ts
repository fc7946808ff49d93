import type { Page } from '@playwright/test'
import { expect, signIn, test } from './servers'

/** Shows every return, and says how many there are: other stories add some to the same practice. */
async function showAll(page: Page): Promise<number> {
  const list = page.getByRole('button', { name: /^All/ })
  await list.click()
  await expect(list).toHaveText(/\d/)
  return Number((await list.innerText()).replace(/\D/g, ''))
}

test('the Desk is cut, ordered and kept, and rows are chosen with the keyboard', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const rows = page.locator('tr.item')
  const all = await showAll(page)
  expect(all).toBeGreaterThanOrEqual(30)
  await expect(page.getByText(`${all} returns`, { exact: true })).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('halvorsen')
  await expect(rows).toHaveCount(4)
  await page.getByLabel('Year').selectOption('2025')
  await expect(rows).toHaveCount(2)
  await page.getByLabel('Save this list as').fill('Halvorsens now')
  await page.getByRole('button', { name: 'Keep', exact: true }).click()
  await page.getByRole('button', { name: 'Clear filters' }).click()
  await expect(page.getByText(`${all} returns`, { exact: true })).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Halvorsens now', exact: true }).click()
  await expect(rows).toHaveCount(2)
  await page.locator('.desk h1').click()
  await page.keyboard.press('x')
  await page.keyboard.press('j')
  await page.keyboard.press('x')
  await expect(page.getByText('2 selected')).toBeVisible()
  await page.getByLabel('Tag', { exact: true }).fill('call back')
  await page.getByRole('button', { name: 'Add tag' }).click()
  await expect(page.getByText('2 of 2, done')).toBeVisible()
  await expect(page.locator('.tag')).toHaveCount(2)
  await page.getByRole('button', { name: 'Delete the list Halvorsens now' }).click()
  await expect(page.getByRole('button', { name: 'Halvorsens now', exact: true })).toHaveCount(0)
})

test('a window taller than the first rows shows the whole list', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const rows = page.locator('tr.item')
  const all = await showAll(page)
  await expect(page.getByText(`${all} returns`, { exact: true })).toBeVisible()
  expect(await rows.count()).toBeLessThan(all)
  await page.setViewportSize({ width: 1280, height: all * 60 })
  await expect(rows).toHaveCount(all)

  // At the end of a list nothing more is asked for.
  const open = page.getByRole('button', { name: /^Open/ })
  await open.click()
  await expect(rows).toHaveCount(Number((await open.innerText()).replace(/\D/g, '')))
  const asked: string[] = []
  page.on('request', (request) => asked.push(request.url()))
  await page.waitForTimeout(1_000)
  expect(asked.filter((address) => address.includes('/api/desk?')).length).toBeLessThan(3)
})

test('a batch over a whole list goes through, and says what it refused and why', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'mosi')
  await page.getByLabel('Select Tamsin Wekesa Quill 2025').check()
  await page.getByLabel(/all \d+ of the list/).check()
  await page.getByRole('button', { name: 'Build', exact: true }).click()
  await expect(page.getByText(/refused, done/)).toBeVisible()
  await expect(page.locator('.refused')).toContainText(
    'Tamsin Wekesa Quill 2025: Only an approved return is built; hand it over and have it approved first.',
  )
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByLabel('Select Tamsin Wekesa Quill 2025').check()
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(page.getByText('This files 1 return. This cannot be undone.')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export CSV' }).click()
  expect((await download).suggestedFilename()).toBe('desk-open-2026-06-18.csv')
})

test('last year is rolled forward, older years first, with a report of what was taken', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.keyboard.press('Control+k')
  await page.keyboard.type('esi harrow')
  await page.getByRole('option', { name: /^Esi Harrow Cheruiyot client/ }).click()
  await page.getByRole('button', { name: 'roll forward' }).click()
  await expect(page.getByRole('alert')).toContainText('2022 to 2024 have not been filed; older years come first')
  await page.getByRole('button', { name: 'Open 2025 all the same' }).click()
  await page.getByText(/Taken over from 2024: \d+ lines/).click()
  await expect(page.getByRole('heading', { name: 'To look at again' })).toBeVisible()
  await page.locator('.taken a', { hasText: 'Basic pay' }).click()
  await expect(page).toHaveURL(/fill\/employment\?line=employment\.employers\.basic-pay/)
  await expect(page.getByText('Tide Clock Works Ltd').first()).toBeVisible()
})
