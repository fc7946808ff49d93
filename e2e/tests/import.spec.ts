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

test('returns of many clients go out as one workbook, and brought back as they went out they change nothing', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/clients')
  await page.getByRole('button', { name: 'Import' }).click()
  const many = page.getByRole('region', { name: 'Returns of many clients' })
  await many
    .getByLabel('Return', { exact: true })
    .selectOption({ label: 'Philippines, list of tax withheld at source' })
  await expect(many.getByLabel('Period')).toHaveValue('q1')
  await many.getByLabel('Return', { exact: true }).selectOption({ label: "Kenya, employee's return" })
  await many.getByLabel('Returns in the workbook').selectOption({ label: 'With the open returns assigned to me' })
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    many.getByRole('link', { name: 'Download the workbook' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('ke-employment-income-2025.xlsx')
  await many.getByLabel('Filled workbook of many clients').setInputFiles(await download.path())
  await expect(many.getByRole('status')).toContainText(/The workbook says what the returns of \d+ clients say\./)
  await many
    .getByLabel('Filled workbook of many clients')
    .setInputFiles({ name: 'pay.xlsx', mimeType: 'application/zip', buffer: Buffer.from('PK no workbook') })
  await expect(many.getByRole('alert')).toContainText('The workbook cannot be read')
})
