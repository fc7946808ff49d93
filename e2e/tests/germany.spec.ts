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
 * A second tariff: wages of 54,100 with ways to work of 180 days and 26 km, so 180 x (20 x 0.30 + 6 x 0.38) = 1,490.40, above the lump sum of 1,230 (EStG s. 9, 9a, 32a; from memory).
 */
test('an employee of Germany, from a new client to an acknowledgement', async ({ browser, servers }) => {
  test.setTimeout(120_000)
  const page = await signIn(browser, servers, 'pia')

  await test.step('the client with the particulars of its country', async () => {
    await page.goto('/clients/new')
    await page.getByLabel('Country').press('ArrowDown')
    await page.getByRole('option', { name: 'Germany' }).click()
    await page.getByLabel('identification number', { exact: false }).first().fill('20364598158')
    await expect(page.getByText('has eleven digits').first()).toBeVisible()
    await page.getByLabel('identification number', { exact: false }).first().fill('20 364 598 157')
    await page.getByLabel('Official name').fill('Ingwer Kliffendorn')
    await page.getByLabel('Date of birth').fill('5/3/1979')
    await page.getByLabel('Postal address').fill('157 Driftwood Lane, Seal Bank')
    await page.getByRole('button', { name: 'Add client' }).click()
    await expect(page.getByRole('heading', { name: 'Ingwer Kliffendorn' })).toBeVisible()
    await page.getByRole('button', { name: 'Open 2025', exact: true }).click()
    await page
      .getByRole('button', { name: 'Open 2025 all the same' })
      .click({ timeout: 3_000 })
      .catch(() => undefined)
  })

  await test.step('Scope by life situation', async () => {
    await fill(page, 'scope.state', 'Hesse')
    await field(page, 'scope.family').selectOption('single')
    await field(page, 'scope.commuting').focus()
    await page.keyboard.press('y')
    await page.getByRole('button', { name: /Answer the other/ }).click()
    await expect(page.locator('.contents a.form', { hasText: 'Household work' })).toHaveCount(0)
    await form(page, 'Taxpayer')
    await fill(page, 'taxpayer.tax-number', '2636034598157')
    await fill(page, 'taxpayer.office', 'Seal Bank')
    await field(page, 'taxpayer.religion').selectOption('none')
    await saved(page)
  })

  await test.step('the wage statement comes from the authority; the ways to work are compared with the lump sum', async () => {
    await form(page, 'Wages')
    await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
    await page.getByRole('button', { name: 'Record the consent and ask' }).click()
    await page.getByLabel(/Cliffside Weavers/).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
    await expect(computed(page, 'wages.gross')).toHaveText('54,100')
    await page.getByRole('button', { name: 'Boxes of papers' }).click()
    const box = page
      .getByRole('row')
      .filter({ has: page.getByRole('cell', { name: 'wage statement line 4', exact: true }) })
    await expect(box.getByRole('link', { name: /Wage tax \(Lohnsteuer\) withheld/ })).toBeVisible()
    await page.getByRole('button', { name: 'Close the boxes' }).click()
    await form(page, 'Employment expenses')
    await page.getByRole('button', { name: 'Add way to work' }).click()
    await fill(page, 'work-costs.ways.place', 'Cliffside Weavers')
    await fill(page, 'work-costs.ways.days', '100')
    await fill(page, 'work-costs.ways.distance', '26')
    await fill(page, 'work-costs.ways.by-car', '26')
    await saved(page)
    await expect(computed(page, 'work-costs.until-lump-sum')).toHaveText('402')
    await fill(page, 'work-costs.ways.days', '180')
    await expect(computed(page, 'work-costs.total')).toHaveText('1,490.40')
    await expect(computed(page, 'work-costs.income')).toHaveText('52,609.60')
  })

  await test.step('a page is added and left out by hand, and says why it is there', async () => {
    await page.getByRole('button', { name: 'Add Household work' }).click()
    await expect(page.getByRole('heading', { name: 'Household work', level: 1 })).toBeVisible()
    await expect(page.getByText(/Here because .* is answered yes/)).toBeVisible()
    await page.getByRole('button', { name: 'Leave this page out' }).click()
    await expect(page).toHaveURL(/scope\?line=scope\.household-work/)
    await expect(page.locator('.contents a.form', { hasText: 'Household work' })).toHaveCount(0)
  })

  await test.step('insurance, account and declaration', async () => {
    await form(page, 'Provident expenses')
    await field(page, 'provident.sickness-pay').focus()
    await page.keyboard.press('y')
    await field(page, 'provident.subsidised').focus()
    await page.keyboard.press('y')
    await saved(page)
    await expect(balance(page)).toHaveText(/[\d,.]+/)
    await form(page, 'Bank account')
    await fill(page, 'payout.account', 'DE73 9990 0000 0000 0000 66')
    await form(page, 'Declaration')
    await page.getByRole('radio', { name: 'yes' }).click()
    await fill(page, 'declaration.name', 'Ingwer Kliffendorn')
    await fill(page, 'declaration.date', '15/6/2026')
    await saved(page)
  })

  await test.step('handed over, approved, filed and acknowledged', async () => {
    await step(page, 'review')
    await acceptWarnings(page, 'Looked at with the client.')
    await expect(page.getByText('0 errors, 0 warnings')).toBeVisible()
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    const mosi = await signIn(browser, servers, 'mosi')
    await approveAndFile(mosi, page.url(), async () => {
      await expect(mosi.getByRole('button', { name: 'Send to the authority' })).toHaveCount(0)
      await mosi.getByRole('button', { name: 'Have it checked' }).click()
      await expect(mosi.getByText('Nothing to correct')).toBeVisible()
    })
    expect((await servers.filings('20364598157')).length).toBe(1)
  })

  await test.step('years that would likely give a refund are listed', async () => {
    await page.goto('/desk')
    await page.getByRole('link', { name: /^Likely refunds/ }).click()
    await page.getByRole('button', { name: 'Open the return of Ingwer Kliffendorn for 2022' }).click()
    await expect(page.getByText('Germany, employee').first()).toBeVisible()
  })
})
