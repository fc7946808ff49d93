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
