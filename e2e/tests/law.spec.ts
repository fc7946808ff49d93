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
