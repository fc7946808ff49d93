import { createDecipheriv } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import { argon2id } from '@noble/hashes/argon2.js'
import { expect, field, saved, signIn, test } from './servers'

const PASSPHRASE = 'seven herons by the weir'

/**
 * Reads a file as docs/file-formats.md lays it out, with Node's AES-256-GCM and the Argon2id of the library
 * @noble/hashes (npm), neither of which the product uses.
 */
function decrypt(file: Buffer, passphrase: string): Buffer {
  expect(file.subarray(0, 8).toString()).toBe('AERKEPT1')
  const [m, t, p] = [24, 28, 32].map((at) => file.readInt32BE(at)) as [number, number, number]
  expect([m, t, p]).toEqual([65_536, 3, 4])
  const key = argon2id(Buffer.from(passphrase), file.subarray(8, 24), { m, t, p, dkLen: 32 })
  const cipher = createDecipheriv('aes-256-gcm', key, file.subarray(36, 48))
  cipher.setAAD(file.subarray(0, 48))
  cipher.setAuthTag(file.subarray(-16))
  return gunzipSync(Buffer.concat([cipher.update(file.subarray(48, -16)), cipher.final()]))
}

test('a return lives in a file the client keeps, readable with nothing but its passphrase', async ({
  browser,
  servers,
}, info) => {
  test.setTimeout(120_000)
  const page = await signIn(browser, servers, 'pia')
  await page.goto('/clients')
  await page.getByRole('button', { name: 'Kept by the client' }).click()
  const begin = page.getByRole('form', { name: 'Create a file' })
  await begin.getByLabel('Personal identification number').fill('A005551212W')
  await begin.getByLabel('Official name').fill('Marisol Quince')
  await begin.getByLabel('Passphrase, at least 12 characters').fill(PASSPHRASE)
  await begin.getByLabel('The passphrase again').fill('something else')
  await begin.getByRole('button', { name: 'Create' }).click()
  await expect(begin.getByText('The two passphrases differ')).toBeVisible()
  await begin.getByLabel('The passphrase again').fill(PASSPHRASE)
  await begin.getByRole('button', { name: 'Create' }).click()
  await expect(page.getByRole('heading', { name: 'Marisol Quince' })).toBeVisible()
  await page.getByRole('button', { name: 'Open 2025' }).click()
  await page.getByRole('button', { name: 'Open 2025 all the same' }).click()
  await field(page, 'scope.insurance').focus()
  await page.keyboard.press('y')
  await saved(page)
  const bar = page.getByRole('complementary', { name: 'File kept by the client' })
  await expect(bar).toContainText('Changes are not in the file yet')
  const download = page.waitForEvent('download')
  await bar.getByRole('button', { name: 'Save the file' }).click()
  const kept = info.outputPath('kept.aer')
  await (await download).saveAs(kept)
  await expect(bar).toContainText('The file has everything')
  await bar.getByRole('button', { name: 'Close it' }).click()
  await page.getByLabel('Filter the clients').fill('Marisol')
  await expect(page.getByText('0 clients')).toBeVisible()

  const file = readFileSync(kept)
  const image = decrypt(file, PASSPHRASE)
  expect(image.subarray(0, 15).toString()).toBe('SQLite format 3')
  expect(image.includes('Marisol Quince')).toBe(true)
  expect(image.includes('scope.insurance')).toBe(true)
  expect(file.includes('Marisol')).toBe(false)
  expect(() => decrypt(file, 'seven herons by the wier')).toThrow()

  await page.getByRole('button', { name: 'Kept by the client' }).click()
  const open = page.getByRole('form', { name: 'Open a file' })
  const altered = Buffer.from(file)
  altered[altered.length - 20]! ^= 1
  writeFileSync(info.outputPath('altered.aer'), altered)
  await open.getByLabel('File kept by the client').setInputFiles(info.outputPath('altered.aer'))
  await open.getByLabel('Passphrase').fill(PASSPHRASE)
  await open.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByRole('alert')).toContainText('the file was altered')
  await open.getByLabel('File kept by the client').setInputFiles(kept)
  await open.getByRole('button', { name: 'Open' }).click()
  await expect(page.getByRole('heading', { name: 'Marisol Quince' })).toBeVisible()
  await page.getByRole('link', { name: 'open', exact: true }).click()
  await page
    .getByRole('link', { name: /^scope/i })
    .first()
    .click()
  await expect(
    page.locator('.line', { hasText: 'Life, education or health' }).getByRole('radio', { name: 'yes' }),
  ).toBeChecked()
})
