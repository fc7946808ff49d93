import { computed, expect, field, fill, form, fromDesk, saved, signIn, step, test } from './servers'

test('bad input gets a message that says what, where and what to do, and stays on screen', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await fromDesk(page, 'Jabali Penhallow')
  await step(page, 'fill')
  await form(page, 'Employment')
  const cases: [string, string, string][] = [
    ['employment.employers.bonus', 'twelve', 'is not an amount'],
    ['employment.employers.bonus', '1.234.56', 'more than one decimal mark'],
    ['employment.employers.bonus', '1.200', 'can be read in two ways: as 1.200 and as 1,200'],
    ['employment.employers.bonus', '1,23', 'can be read in two ways'],
    ['employment.employers.bonus', '-500', 'cannot be negative'],
    ['employment.employers.bonus', '99999999999999', 'larger than any amount'],
    ['employment.employers.months', '13', 'must be between 1 and 12'],
  ]
  for (const [line, typed, message] of cases) {
    await fill(page, line, typed)
    await expect(page.getByRole('alert').filter({ hasText: message })).toBeVisible()
    await expect(field(page, line)).toHaveValue(typed)
  }
  await fill(page, 'employment.employers.bonus', ' 12 500 \t')
  await expect(field(page, 'employment.employers.bonus')).toHaveValue('12,500')
  await fill(page, 'employment.employers.months', '8')
  await fill(page, 'employment.employers.bonus', '')
  await saved(page)
})

test('a button pressed just after typing acts, though what is said about it would have moved the button', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await fromDesk(page, 'Jabali Penhallow')
  await step(page, 'fill')
  await form(page, 'Employment')
  const employers = page.locator('.row-block')
  const message = page.getByRole('alert').filter({ hasText: 'is not an amount' })
  const button = page.getByRole('button', { name: 'Add employer' })
  const before = await employers.count()
  await field(page, 'employment.employers.bonus').fill('twelve')
  await button.scrollIntoViewIfNeeded()
  const { x, y, width, height } = (await button.boundingBox())!
  const answered = page.waitForResponse('**/entries')
  await page.mouse.move(x + width / 2, y + height / 2)
  await page.mouse.down()
  await (await answered).finished()
  // As long as a hand takes to let go of a button.
  await page.waitForTimeout(100)
  await expect(message).toHaveCount(0)
  expect((await button.boundingBox())!.y).toBe(y)
  await page.mouse.up()
  await expect(message).toBeVisible()
  await expect(employers).toHaveCount(before + 1)
  await page.keyboard.press('Control+z')
  await expect(employers).toHaveCount(before)
  await fill(page, 'employment.employers.bonus', '')
  await saved(page)
})

test('an employer without identifier, and one entered twice, are findings', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await fromDesk(page, 'Jabali Penhallow')
  await expect(page.getByText("Moth Lantern Cinema Ltd: Enter ‘Employer's identification number’.")).toBeVisible()
  await expect(page.getByText('Driftwood Ferry Line Ltd: This number is the letter P')).toBeVisible()
  await step(page, 'fill')
  await form(page, 'Employment')
  await fill(page, 'employment.employers.pin', 'p051622095f', 0)
  await expect(field(page, 'employment.employers.pin')).toHaveValue('P051622095F')
  await fill(page, 'employment.employers.pin', 'P051622095F', 1)
  await step(page, 'review')
  await expect(page.getByText('This employer is entered twice')).toBeVisible()
})

test('what the authority holds is shown beside the return', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await fromDesk(page, 'Jabali Penhallow')
  await step(page, 'fill')
  await form(page, 'Employment')
  await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
  await expect(page.getByText('differs from the return').or(page.getByText('not on the return')).first()).toBeVisible()
})

test('keyboard: Enter moves on, Escape restores, Alt+J visits findings, Ctrl+K goes anywhere, Alt+Y duplicates', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await expect(page.locator('tr.item.at')).toContainText('Njeri Halvorsen Oduya')
  await page.keyboard.press('j')
  await expect(page.locator('tr.item.at')).toContainText('Per Halvorsen Oduya')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/returns\/\d+\//)
  await page.goto('/returns/2/fill/employment')
  await field(page, 'employment.employers.basic-pay').focus()
  await page.keyboard.press('Enter')
  await expect(field(page, 'employment.employers.house-allowance')).toBeFocused()
  await page.keyboard.press('Shift+Enter')
  await expect(field(page, 'employment.employers.basic-pay')).toBeFocused()
  await page.keyboard.type('999')
  await page.keyboard.press('Escape')
  await expect(field(page, 'employment.employers.basic-pay')).toHaveValue('1,668,000')
  const margin = page.getByRole('complementary', { name: 'Margin' })
  await margin.getByRole('tab', { name: 'Last year' }).click()
  await expect(margin.locator('tr', { hasText: '2024' })).toContainText('1,560,000')
  await page.keyboard.press('Alt+j')
  await expect(page).toHaveURL(/line=/)
  const first = page.url()
  await page.keyboard.press('Alt+j')
  await expect(page).not.toHaveURL(first)
  await page.keyboard.press('Alt+k')
  await expect(page).toHaveURL(first)
  for (const time of ['once', 'again, from another line'])
    await test.step(`Ctrl+K goes to a line, ${time}`, async () => {
      await page.keyboard.press('Control+k')
      await page.keyboard.type('intrest allowed')
      await page.keyboard.press('Enter')
      await expect(page.locator('.margin h3')).toHaveText('Interest allowed')
      await field(page, 'deductions.mortgage-months').focus()
      await expect(page.locator('.margin h3')).not.toHaveText('Interest allowed')
    })
  await page.keyboard.press('Control+k')
  await page.keyboard.type('s. 31 relief')
  await expect(page.getByRole('option', { name: /Insurance relief/ }).first()).toBeVisible()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('anual halvorsen kenya employee', { delay: 5 })
  await expect(page.getByText('No matches.')).toBeVisible()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('employee 2025 halvorsn njeri', { delay: 5 })
  await expect(page.getByRole('option', { name: /Njeri Halvorsen Oduya, 2025/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goto('/returns/2/fill/deductions')
  await field(page, 'deductions.loans.interest').focus()
  await page.keyboard.press('Alt+y')
  await expect(field(page, 'deductions.loans.interest', 1)).toHaveValue('402,350')
  await page.keyboard.press('Control+z')
  await expect(field(page, 'deductions.loans.interest', 1)).toHaveCount(0)
  await page.keyboard.press('Alt+m')
  await expect(page.getByRole('complementary', { name: 'Margin' })).toBeHidden()
  await page.keyboard.press('Alt+m')
})

test('a section closed by Scope keeps its entries, says so, and counts them again when it opens', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/returns/2/scope')
  await field(page, 'scope.mortgage').focus()
  await page.keyboard.press('n')
  await expect(page.locator('.out').getByText('Home loan interest')).toBeVisible()
  await step(page, 'review')
  await expect(page.getByText(/kept but do(es)? not count/).first()).toBeVisible()
  await page.goto('/returns/2/scope')
  await field(page, 'scope.mortgage').focus()
  await page.keyboard.press('y')
  await form(page, 'Deductions')
  await expect(computed(page, 'deductions.mortgage-interest')).toHaveText('402,350')
})

test('a warning is accepted with a reason and can be reopened', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/returns/2/review')
  const finding = page.locator('[data-finding="mortgage-over-limit"]')
  await finding.getByRole('button', { name: 'Accept with a reason' }).click()
  await finding.getByLabel('Reason for accepting').fill('Discussed with the client')
  await finding.getByRole('button', { name: 'Accept', exact: true }).click()
  await expect(page.getByText('Rukia Tindall: Discussed with the client')).toBeVisible()
  await page.getByRole('button', { name: 'Reopen' }).click()
  await expect(finding).toBeVisible()
})

test('a cell of a list too narrow for the name of its code is read whole in the Margin', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/returns/19/fill/list?line=list.rows.code&row=row-3')
  // Beside a list the Margin gives way on a narrow window, until it is asked for.
  await expect(page.getByRole('complementary', { name: 'Margin' })).toBeHidden()
  await page.getByRole('button', { name: 'Margin' }).click()
  await expect(page.getByRole('complementary', { name: 'Margin' })).toContainText(
    'WI011 Professional fees, above 3 million or VAT-registered',
  )
  const cell = page.locator('[data-place="list.rows.code|row-3"]')
  expect(await cell.evaluate((e) => [e.scrollWidth > e.clientWidth, getComputedStyle(e).overflowX])).toEqual([
    true,
    'hidden',
  ])
})
