import {
  acceptWarnings,
  approveAndFile,
  balance,
  computed,
  expect,
  field,
  fill,
  form,
  saved,
  signIn,
  step,
  test,
} from './servers'

/**
 * A third country through the same workspace, with pages that repeat. Pay of 64,000 and a business profit of 6,000 less a gift of 400 and the allowance of
 * 25,000: 44,600 at 12.5% is 5,575; deducted 4,875, so 700 is to pay (Income Tax Act, Cap. 73; from memory).
 */
test('a return of Barbados with a page for each business, from a new client to an acknowledgement', async ({
  browser,
  servers,
}) => {
  test.setTimeout(120_000)
  const page = await signIn(browser, servers, 'pia')
  const pages = page.getByRole('tablist', { name: 'Businesses' })
  const grid = page.getByRole('grid', { name: 'Expenses' })

  await test.step('the client with the particulars of its country', async () => {
    await page.goto('/clients/new')
    await page.getByLabel('Country').press('ArrowDown')
    await page.getByRole('option', { name: 'Barbados' }).click()
    await page.getByLabel('Taxpayer identification number').fill('100000000006')
    await expect(page.getByText('has 13 digits')).toBeVisible()
    await page.getByLabel('Taxpayer identification number').fill('1000000000066')
    await page.getByLabel('Official name').fill('Rosamund Holloway Tidd')
    await page.getByLabel('Date of birth').fill('29/2/1988')
    await page.getByLabel('National registration number').fill('880228-0066')
    await page.getByLabel('Postal address').fill('9 Casuarina Row, Coral Bight')
    await page.getByRole('button', { name: 'Add client' }).click()
    await expect(page.getByRole('heading', { name: 'Rosamund Holloway Tidd' })).toBeVisible()
    await page.getByRole('button', { name: 'Open 2025', exact: true }).click()
    await page.getByRole('button', { name: 'Open 2025 all the same' }).click()
  })

  await test.step('Scope opens what was answered yes', async () => {
    for (const line of ['scope.employment', 'scope.business', 'scope.gifts']) {
      await field(page, line).focus()
      await page.keyboard.press('y')
    }
    await page.getByRole('button', { name: /Answer the other/ }).click()
    await expect(page.locator('.contents a.form', { hasText: 'Residential rent' })).toHaveCount(0)
    await form(page, 'Taxpayer')
    await field(page, 'taxpayer.marital-status').selectOption('single')
    await field(page, 'taxpayer.national-registration').focus()
    await expect(page.getByText('does not match the date of birth').first()).toBeVisible()
    await fill(page, 'taxpayer.national-registration', '880229-0066')
    await saved(page)
    await field(page, 'taxpayer.national-registration').focus()
    await expect(page.getByText('does not match the date of birth')).toHaveCount(0)
  })

  await test.step('the employer’s certificate and the charity’s report come from the authority, each on its form', async () => {
    await form(page, 'Employment')
    await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
    await page.getByRole('button', { name: 'Record the consent and ask' }).click()
    await expect(page.getByText('Flying Fish Reading Room')).toHaveCount(0)
    await page.getByLabel(/Trade Wind Print Works/).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
    await expect(computed(page, 'employment.income')).toHaveText('64,000')
    await form(page, 'Deductions')
    await page.getByLabel(/Flying Fish Reading Room/).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
    await expect(field(page, 'deductions.gifts.amount')).toHaveValue('400')
    await fill(page, 'deductions.gifts.amount', '500')
    await expect(page.getByText('Ask the charity to correct its report').first()).toBeVisible()
    await fill(page, 'deductions.gifts.amount', '400')
    await fill(page, 'deductions.gifts-allowed', '400')
    await expect(computed(page, 'deductions.total')).toHaveText('400')
  })

  await test.step('a page for each business: expenses typed in a grid of its own', async () => {
    await form(page, 'Business')
    await page.getByRole('button', { name: 'Add business' }).click()
    await fill(page, 'business.businesses.description', 'Sail repair')
    await field(page, 'business.businesses.kind').selectOption('trade')
    await fill(page, 'business.businesses.turnover', '10,000')
    await page.getByRole('button', { name: 'Add expense' }).click()
    await expect(grid.getByRole('gridcell').first()).toBeVisible()
    await grid.focus()
    await page.keyboard.type('repairs')
    await page.keyboard.press('Tab')
    await page.keyboard.type('2000')
    await page.keyboard.press('Enter')
    await expect(computed(page, 'business.businesses.profit')).toHaveText('8,000')
  })

  await test.step('the page is duplicated with its expenses, changed, removed, and brought back', async () => {
    await page.getByRole('button', { name: 'Duplicate' }).first().click()
    await expect(pages.getByRole('tab')).toHaveCount(2)
    await expect(computed(page, 'business.result')).toHaveText('16,000')
    await fill(page, 'business.businesses.description', 'Net mending')
    await fill(page, 'business.businesses.turnover', '0')
    await expect(computed(page, 'business.result')).toHaveText('6,000')
    await expect(pages.getByRole('tab').nth(1)).toHaveText('2. Net mending')
    await pages.getByRole('tab', { name: 'Sail repair' }).click()
    await expect(computed(page, 'business.businesses.profit')).toHaveText('8,000')
    await page
      .getByRole('button', { name: 'Remove; can be undone' })
      .or(page.getByRole('button', { name: 'Remove', exact: true }))
      .first()
      .click()
    await expect(pages.getByRole('tab')).toHaveCount(1)
    await expect(computed(page, 'business.result')).toHaveText('(2,000)')
    await page.locator('h1').click()
    await page.keyboard.press('Control+z')
    await expect(pages.getByRole('tab')).toHaveCount(2)
    await expect(computed(page, 'business.result')).toHaveText('6,000')
    await expect(pages.getByRole('tab').first()).toHaveText('1. Sail repair')
  })

  await test.step('a finding leads to its page', async () => {
    await pages.getByRole('tab', { name: 'Sail repair' }).click()
    await grid.getByRole('gridcell').nth(1).click()
    await page.keyboard.press('Delete')
    await saved(page)
    await step(page, 'review')
    const missing = page.getByText('Sail repair, Repairs: Enter ‘Amount’.')
    await expect(missing).toBeVisible()
    await step(page, 'fill')
    await form(page, 'Business')
    await pages.getByRole('tab', { name: 'Net mending' }).click()
    await step(page, 'review')
    await page
      .locator('[data-finding="business.expenses.amount:missing"]')
      .getByRole('link', { name: 'Go to the line' })
      .click()
    await expect(pages.getByRole('tab', { name: 'Sail repair' })).toHaveAttribute('aria-selected', 'true')
    await grid.getByRole('gridcell').nth(1).click()
    await page.keyboard.type('2000')
    await page.keyboard.press('Enter')
    await expect(balance(page)).toHaveText('700')
  })

  await test.step('declared, handed over, approved, filed and acknowledged', async () => {
    await form(page, 'Declaration')
    await page.getByRole('radio', { name: 'yes' }).click()
    await fill(page, 'declaration.name', 'Rosamund Holloway Tidd')
    await fill(page, 'declaration.date', '15/6/2026')
    await saved(page)
    await step(page, 'review')
    await acceptWarnings(page, 'Looked at with the client.')
    await expect(page.getByText('0 errors, 0 warnings')).toBeVisible()
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    const mosi = await signIn(browser, servers, 'mosi')
    await approveAndFile(mosi, page.url())
    expect((await servers.filings('1000000000066')).length).toBe(1)
  })
})
