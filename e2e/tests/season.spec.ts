import { expect, signIn, test } from './servers'

test('the season in charts: by stage, from opening to filing, and what alternatives found', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'mosi')
  await page.getByRole('link', { name: 'Season in charts' }).click()
  await expect(page.getByRole('heading', { name: 'Season', level: 1 })).toBeVisible()
  const june = page.locator('.bar-line', { hasText: 'Jun 2026' })
  await expect(june.getByRole('img')).toHaveAccessibleName(/\d+ accepted, .*being filled/)
  await expect(page.locator('.bar-line', { hasText: 'Apr 2026' })).toContainText(/\d+ late/)
  await expect(page.locator('.bar-line', { hasText: '61 days and more' })).toBeVisible()
  const found = page.getByRole('row', { name: /Philippines, annual return/ })
  await expect(found).toContainText('PHP')
})
