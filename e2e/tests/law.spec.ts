import { expect, signIn, test } from './servers'

test('a figure of the law is found, held against a printed page, and confirmed by another', async ({
  browser,
  servers,
}) => {
  const mosi = await signIn(browser, servers, 'mosi')
  const rukia = await signIn(browser, servers, 'rukia')

  await test.step('found by its section, beside the year before, with what uses it', async () => {
    await mosi.getByRole('link', { name: 'Law', exact: true }).click()
    await mosi.getByLabel('Return', { exact: true }).selectOption('Barbados, resident individual')
    await expect(mosi.getByText(/^0 of \d+ figures verified$/)).toBeVisible()
    await mosi.getByLabel('Filter the figures').fill('allowance spouse')
    await mosi.getByRole('button', { name: 'Allowance for a spouse' }).click()
    const figure = mosi.getByRole('complementary', { name: 'Figure' })
    await expect(figure.getByText('3,000').first()).toBeVisible()
    await expect(figure.getByRole('listitem').first()).toContainText('allowance for a spouse')
  })

  await test.step('what uses a figure leads to the page of a return that the practice has', async () => {
    await rukia.goto('/law?return=ke/employment-income&year=2025&figure=personal-relief')
    await expect(rukia.getByText(/The lines lead to the pages of .*’s return\./)).toBeVisible()
    await rukia.getByRole('link', { name: /^\d+\.\d+ Personal relief$/ }).click()
    await expect(rukia).toHaveURL(/\/returns\/\d+\/fill\/tax\?line=tax\.personal-relief/)
    await expect(rukia.getByRole('button', { name: /^Personal relief: 28,800; explain/ })).toBeFocused()
  })

  await test.step('its schedule with the shape of another country laid over it, and its days', async () => {
    await rukia.goto('/law?return=bb/individual&year=2025&figure=bands-of-tax')
    await rukia.getByLabel('Lay another schedule over bands of tax').selectOption("Kenya, employee's return")
    await expect(rukia.getByText(/dotted: Kenya, employee's return 2025, bands of tax/)).toBeVisible()
    await rukia.goto('/law?return=ke/employment-income&year=2025&figure=public-holidays')
    await expect(rukia.getByRole('complementary').getByText('18 Apr 2025, 3 Apr 2026')).toBeVisible()
  })

  await test.step('verified against a page that is attached', async () => {
    await mosi.getByLabel('Held against').fill('Official Gazette, Income Tax Act, s. 13')
    await mosi.getByRole('button', { name: 'Verify', exact: true }).click()
    await expect(mosi.getByText(/^1 of \d+ figures verified$/)).toBeVisible()
    await mosi
      .getByLabel('Page the figure was held against')
      .setInputFiles({ name: 'gazette.txt', mimeType: 'text/plain', buffer: Buffer.from('spouse 3,000') })
    await expect(mosi.getByRole('link', { name: 'gazette.txt' })).toBeVisible()
    await expect(mosi.getByRole('button', { name: 'Confirm', exact: true })).toHaveCount(0)
  })

  await test.step('confirmed by another, from the figure in a derivation', async () => {
    await rukia.goto(mosi.url().replace(servers.address, ''))
    await rukia.getByRole('button', { name: 'Confirm', exact: true }).click()
    await expect(rukia.getByText('Confirmed by Rukia Tindall.')).toBeVisible()
    await rukia.goto('/returns/2/fill/deductions?line=deductions.mortgage-limit')
    await rukia
      .getByRole('link', { name: /^ITA s\. 15/ })
      .first()
      .click()
    await expect(rukia.getByRole('heading', { name: 'Figures of the law' })).toBeVisible()
    await expect(rukia.getByLabel('Filter the figures')).not.toHaveValue('')
    await expect(rukia.getByText('No figure is called that.')).toHaveCount(0)
  })
})

test('another value of the law is tried on every return, and nothing moves', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/law?return=ke/employment-income&year=2025&figure=personal-relief')
  await page.getByRole('button', { name: 'Try another value' }).click()
  const whatIf = page.getByRole('complementary', { name: 'What if' })
  await expect(whatIf.getByText('These are the values of the law.')).toBeVisible()
  const value = whatIf.getByLabel('personal relief for the year, value to try')

  await test.step('what does not fit is told', async () => {
    await value.fill('-5')
    await value.press('Tab')
    await whatIf.getByRole('button', { name: 'See the effect' }).click()
    await expect(whatIf.getByRole('alert')).toHaveText('Personal relief for the year: -5 is below zero.')
  })

  await test.step('who pays less, and by how much', async () => {
    await value.fill('12 * 2,500')
    await value.press('Tab')
    await whatIf.getByRole('button', { name: 'See the effect' }).click()
    await expect(whatIf.getByRole('status')).toContainText(
      /\d+ of \d+ returns change: 0 to pay more, \d+ less; together/,
    )
    await expect(whatIf.getByRole('row').first()).toContainText('(1,200)')
    await expect(whatIf.getByRole('row').filter({ hasText: 'consider amending' }).first()).toBeVisible()
    const download = page.waitForEvent('download')
    await whatIf.getByRole('button', { name: 'Export CSV' }).click()
    expect((await download).suggestedFilename()).toBe('effect.csv')
  })

  await test.step('kept, and opened again from another law', async () => {
    await whatIf.getByLabel('Save the scenario as').fill('Budget speech')
    await whatIf.getByRole('button', { name: 'Save', exact: true }).click()
    await page.getByLabel('Return', { exact: true }).selectOption('Barbados, resident individual')
    await expect(whatIf.getByText('Choose a figure in the list')).toBeVisible()
    await whatIf.getByRole('button', { name: 'Budget speech', exact: true }).click()
    await expect(page.getByLabel('Return', { exact: true })).toHaveValue('ke/employment-income')
    await expect(value).toHaveValue('12 * 2,500')
    await whatIf.getByRole('button', { name: 'Delete the scenario Budget speech' }).click()
    await expect(whatIf.getByRole('heading', { name: 'Saved scenarios' })).toHaveCount(0)
  })

  await test.step('a return says which figures it rests on are not certain, and leads to them', async () => {
    await page.goto('/returns/2/approve')
    const law = page.getByRole('region', { name: 'Uncertain figures of the law' })
    await expect(law).toContainText(/of \d+ figures it rests on verified/)
    await law.getByText(/uncertain figures with no effect on this return/).click()
    await law.getByRole('link', { name: 'Fixed monthly rate, four-wheel utility vehicle' }).click()
    await expect(page.getByRole('heading', { name: 'Fixed monthly rate, four-wheel utility vehicle' })).toBeVisible()
  })
})

test('a schedule is verified, a limit corrected, turned on by another; an open return follows, a filed one stays', async ({
  browser,
  servers,
}) => {
  const mosi = await signIn(browser, servers, 'mosi')
  const rukia = await signIn(browser, servers, 'rukia')
  const law = '/law?return=bb/individual&year=2025'
  const open = '/returns/25'
  const filed = '/returns/28'
  const parcel = async () => (await mosi.request.get(`${servers.address}/api${filed}/sending/parcel.zip`)).body()
  const before = await parcel()
  const panel = (page: typeof mosi) => page.getByRole('complementary', { name: 'Figure' })

  await test.step('a schedule is verified against an attached page', async () => {
    await mosi.goto(`${law}&figure=bands-of-tax`)
    await panel(mosi).getByLabel('Held against').fill('Income Tax Act, First Schedule, as printed')
    await panel(mosi).getByRole('button', { name: 'Verify', exact: true }).click()
    await panel(mosi)
      .getByLabel('Page the figure was held against')
      .setInputFiles({ name: 'schedule.txt', mimeType: 'text/plain', buffer: Buffer.from('12.5%, 28.5%') })
    await expect(panel(mosi).getByRole('link', { name: 'schedule.txt' })).toBeVisible()
  })

  await test.step('a limit is corrected, with what does not fit told, and counts for nothing yet', async () => {
    await rukia.goto(`${law}&figure=personal-allowance`)
    await panel(rukia).getByRole('button', { name: 'Correct this figure' }).click()
    const value = panel(rukia).getByLabel('Corrected value')
    await value.fill('-1')
    await panel(rukia).getByLabel('Source', { exact: true }).fill('Official Gazette 2025, no. 41')
    await panel(rukia).getByLabel('Reason', { exact: true }).fill('Raised by the Budget')
    await panel(rukia).getByRole('button', { name: 'Propose' }).click()
    await expect(panel(rukia).getByText('Personal allowance: -1 is below zero.')).toBeVisible()
    await value.fill('26,000')
    await panel(rukia).getByRole('button', { name: 'Propose' }).click()
    const proposed = panel(rukia).getByRole('region', { name: 'Proposed correction' })
    await expect(proposed).toContainText('Proposed: 26,000 in place of 25,000, for 2025')
    await expect(proposed).toContainText('Another approver turns it on.')
  })

  await test.step('its effect is seen, and another turns it on', async () => {
    await mosi.goto(`${law}&figure=personal-allowance`)
    const proposed = panel(mosi).getByRole('region', { name: 'Proposed correction' })
    await proposed.getByRole('button', { name: 'See the effect' }).click()
    await expect(proposed.getByRole('status')).toContainText(/returns change: 0 to pay more, \d+ less/)
  })

  const balance = async () =>
    (await mosi.request.get(`${servers.address}/api${open}`)).json().then((r) => r.outcome.at(-1).amount)
  const was = Number(await balance())
  await rukia.goto(`${open}/fill/scope`)
  await test.step('an open return follows, on the page of who has it open too; a filed one stays and rebuilds', async () => {
    const proposed = panel(mosi).getByRole('region', { name: 'Proposed correction' })
    await proposed.getByRole('button', { name: 'Turn on' }).click()
    await expect(panel(mosi).getByText(/\d+ open returns follow\./)).toBeVisible()
    await expect.poll(async () => Number(await balance())).toBeLessThan(was)
    await rukia.goto(`${open}/fill/allowances`)
    expect((await parcel()).equals(before)).toBe(true)
    const inForce = panel(mosi).getByRole('region', { name: 'Correction in force' })
    await inForce.getByRole('button', { name: 'Show returns under the former law' }).click()
    await expect(inForce.getByRole('row').filter({ hasText: 'Sabine Thorogood' })).toContainText('keeps its law')
  })

  await test.step('out as a file; what it offers here is here already', async () => {
    await mosi.getByRole('button', { name: 'Exchange' }).click()
    const exchange = mosi.getByRole('complementary', { name: 'Exchange' })
    const download = mosi.waitForEvent('download')
    await exchange.getByRole('link', { name: 'Export as a file' }).click()
    const file = await download
    expect(file.suggestedFilename()).toBe('law-bb-individual-2025.json')
    await exchange.getByLabel('Import a file of another practice').setInputFiles((await file.path())!)
    await expect(exchange.getByText(/: 0 of \d+ items can be taken\./)).toBeVisible()
    await expect(exchange.getByText('corrected: 26,000')).toBeVisible()
  })

  await test.step('withdrawn the same way', async () => {
    await rukia.goto(`${law}&figure=personal-allowance`)
    await panel(rukia).getByRole('button', { name: 'Withdraw the correction' }).click()
    await panel(rukia).getByLabel('Reason for withdrawing').fill('The gazette was corrected')
    await panel(rukia).getByRole('button', { name: 'Ask to withdraw' }).click()
    await expect(panel(rukia).getByText('Rukia Tindall asks to withdraw this correction')).toBeVisible()
    await mosi.goto(`${law}&figure=personal-allowance`)
    await panel(mosi).getByRole('button', { name: 'Withdraw', exact: true }).click()
    await expect(panel(mosi).getByRole('region', { name: 'Correction in force' })).toHaveCount(0)
    await expect.poll(async () => Number(await balance())).toBe(was)
  })
})
