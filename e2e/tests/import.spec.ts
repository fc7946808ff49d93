import { expect, signIn, test } from './servers'

test('clients are imported from a table, with what is wrong told by row and column', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/clients')
  await page.getByRole('button', { name: 'Import' }).click()
  const choose = (text: string) =>
    page
      .getByLabel('File with clients')
      .setInputFiles({ name: 'clients.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await choose('PIN,Name,Born\nA700000001A,Odalys Wren,31/02/1990\nA700000002B,Caspian Thorne,\n')
  await expect(page.getByRole('status')).toContainText('2 rows, 1 without a problem. Nothing is stored yet.')
  await expect(page.locator('.import tbody tr')).toContainText("'31/02/1990' is not a date of the calendar")
  await choose('PIN,Name,Born\nA700000001A,Odalys Wren,28/02/1990\nA700000002B,Caspian Thorne,\n')
  await page.getByRole('button', { name: 'Add 2 clients' }).click()
  await expect(page.getByRole('status')).toContainText('2 clients added.')
  await page.getByLabel('Filter the clients').fill('odalys')
  await expect(page.locator('tbody').last().getByRole('link')).toHaveText(['Odalys Wren'])
})
