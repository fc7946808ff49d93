import { createHmac } from 'node:crypto'
import type { Page } from '@playwright/test'
import { expect, field, signIn, test } from './servers'

/** A code by RFC 6238 from the secret in base 32 (RFC 4648), with Node's own HMAC. */
function codeOf(secret: string, at: number): string {
  const bits = [...secret]
    .map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0'))
    .join('')
  const key = Buffer.from(bits.match(/.{8}/g)!.map((byte) => parseInt(byte, 2)))
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor(at / 30_000)))
  const hash = createHmac('sha1', key).update(counter).digest()
  return String((hash.readUInt32BE(hash.at(-1)! & 15) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

async function enter(page: Page, email: string, password: string) {
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
}

test('somebody is invited, joins, sets up one-time codes, and is deactivated again', async ({ browser, servers }) => {
  const ines = await signIn(browser, servers, 'ines')
  await ines.goto('/practice')
  await ines.getByRole('button', { name: 'Invite somebody' }).click()
  await ines.getByLabel('Name', { exact: true }).fill('Olamide Reyes')
  await ines.getByLabel('E-mail address').fill('olamide@lanternreef.example')
  await ines.getByLabel('preparer').check()
  await ines.getByRole('button', { name: 'Make the invitation' }).click()
  const address = await ines.locator('.address').innerText()
  await expect(ines.getByText('Olamide Reyes, olamide@lanternreef.example, preparer')).toBeVisible()

  const page = await (await browser.newContext({ baseURL: servers.address })).newPage()
  await page.goto(address)
  await expect(page.getByText('invites Olamide Reyes as preparer')).toBeVisible()
  await page.getByLabel('Choose a password').fill('too short')
  await page.getByRole('button', { name: 'Join the practice' }).click()
  await expect(page.getByRole('alert')).toContainText('at least 12 characters')
  await page.getByLabel('Choose a password').fill('nine small boats')
  await page.getByRole('button', { name: 'Join the practice' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()

  await page.getByRole('button', { name: 'Signed in as Olamide Reyes' }).click()
  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Set them up' }).click()
  const secret = await page.locator('.secret').innerText()
  await page.getByLabel('The code it shows').fill(codeOf(secret, Date.now()))
  await page.getByLabel('Your current password').fill('nine small boats')
  await page.getByRole('button', { name: 'Turn codes on' }).click()
  const shown = page.getByRole('region', { name: 'Recovery codes' }).getByRole('listitem')
  await expect(shown).toHaveCount(10)
  const recovery = await shown.allInnerTexts()
  await expect(page.getByRole('status').filter({ hasText: 'One-time codes are on.' })).toBeVisible()

  const again = await (await browser.newContext({ baseURL: servers.address })).newPage()
  await enter(again, 'olamide@lanternreef.example', 'nine small boats')
  await again.getByLabel('One-time code').fill(codeOf(secret, Date.now()))
  await again.getByRole('button', { name: 'Sign in' }).click()
  await expect(again.getByRole('heading', { name: 'Desk' })).toBeVisible()

  // Without the device a recovery code gets in; of wrong attempts one is told, and an administrator lets one in again.
  const lost = await (await browser.newContext({ baseURL: servers.address })).newPage()
  for (let attempt = 0; attempt < 6; attempt++) {
    await enter(lost, 'olamide@lanternreef.example', `guess ${attempt}`)
    await expect(lost.getByRole('alert')).toContainText(attempt < 5 ? 'do not belong together' : 'Too many attempts')
  }
  await ines.reload()
  const olamide = ines.locator('tr', { hasText: 'Olamide Reyes' })
  await expect(olamide).toContainText('too many wrong attempts')
  await olamide.getByRole('button', { name: 'Change' }).click()
  await ines.getByRole('button', { name: 'Unlock' }).click()
  await expect(olamide).not.toContainText('too many wrong attempts')
  await enter(lost, 'olamide@lanternreef.example', 'nine small boats')
  await lost.getByLabel('One-time code, or a recovery code').fill(recovery[0]!)
  await lost.getByRole('button', { name: 'Sign in' }).click()
  await expect(lost.getByText('5 wrong attempts to sign in with your address')).toBeVisible()
  await lost.getByRole('button', { name: 'Dismiss' }).click()
  await expect(lost.getByText('wrong attempts to sign in')).toBeHidden()

  await ines.reload()
  await ines.locator('tr', { hasText: 'Olamide Reyes' }).getByRole('button', { name: 'Change' }).click()
  await ines.getByLabel('may sign in').uncheck()
  await ines.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(ines.getByText('Olamide Reyes, deactivated')).toBeVisible()
  // The open page may be on its way to the sign-in page by itself already; a page of its own asks for certain.
  const anew = await again.context().newPage()
  await anew.goto('/clients')
  await expect(anew.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await page.goto(address)
  await expect(page.getByRole('alert')).toContainText('has been used or has expired')
})

test('a reader looks at everything and changes nothing', async ({ browser, servers }) => {
  const noor = await signIn(browser, servers, 'noor')
  await expect(noor.getByRole('link', { name: 'Add client' })).toHaveCount(0)
  await noor.goto('/returns/2/fill/employment')
  await expect(noor.getByText('read only for you; preparers change it')).toBeVisible()
  await expect(field(noor, 'employment.employers.basic-pay')).toHaveAttribute('readonly', '')
  await noor.goto('/clients/1')
  await expect(noor.getByLabel('Official name')).toBeDisabled()
  await expect(noor.getByRole('button', { name: 'Save particulars' })).toHaveCount(0)
})
