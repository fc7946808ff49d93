import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { balance, computed, expect, field, fill, form, fromDesk, saved, signIn, step, test } from './servers'

const PIN = 'A009900771K'

/**
 * The main job, from sign-in to receipt. The figures are example EX-KE-1 of the law sheet (constructed from the
 * statutes, from memory): refund 3,600 of insurance relief.
 */
test('from a new client to an acknowledged return', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')

  await test.step('add a client, its identifier checked while typing', async () => {
    await page.getByRole('link', { name: 'Add client' }).click()
    await page.getByLabel('Personal identification number').fill('A00990077')
    await expect(page.getByText('nine digits and a letter')).toBeVisible()
    await page.getByLabel('Personal identification number').fill('A001100210N')
    await expect(page.getByText('Njeri Halvorsen Oduya already has this identifier')).toBeVisible()
    await page.getByLabel('Personal identification number').fill('a009900771k')
    await expect(page.getByText('already has this identifier')).toBeHidden()
    await page.getByLabel('Official name').fill('Wambui Larkspur')
    await page.getByLabel('Date of birth').fill('31/02/1990')
    await page.getByLabel('E-mail address').fill('wambui@post.example')
    await page.getByRole('button', { name: 'Add client' }).click()
    await expect(page.getByText('not a date of the calendar')).toBeVisible()
    await page.getByLabel('Date of birth').fill('4 may 1990')
    await page.getByRole('button', { name: 'Add client' }).click()
    await expect(page.getByRole('heading', { name: 'Wambui Larkspur' })).toBeVisible()
    await page.getByRole('button', { name: 'Open 2025' }).click()
    await page.getByRole('button', { name: 'Open 2025 all the same' }).click()
  })

  await test.step('answer Scope by keyboard; forms follow', async () => {
    await expect(page.getByRole('heading', { name: 'Scope', level: 1 })).toBeVisible()
    await expect(page.locator('.contents').getByText('Insurance policies')).toBeVisible()
    await field(page, 'scope.insurance').focus()
    await page.keyboard.press('y')
    await expect(page.locator('.out').getByText('Insurance policies')).toBeHidden()
    await field(page, 'scope.employers').selectOption('one')
    await page.getByRole('button', { name: /Answer the other/ }).click()
    await expect(page.getByRole('link', { name: /Scope 14 of 14/i }).first()).toBeVisible()
  })

  await test.step('take the certificate from the authority', async () => {
    await form(page, 'Employment')
    await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
    await expect(page.getByText('Nothing is asked before the client has consented')).toBeVisible()
    await page.getByRole('button', { name: 'Record the consent and ask' }).click()
    await expect(page.getByText('Wambui Larkspur consented on 18 Jun 2026')).toBeVisible()
    await page.getByLabel(/Glasshouse Orchestra Trust/).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
    await expect(field(page, 'employment.employers.basic-pay')).toHaveValue('1,440,000')
    await expect(page.locator('.line', { hasText: 'Basic pay' }).first()).toContainText('auth.')
    await expect(computed(page, 'employment.income')).toHaveText('1,440,000')
  })

  await test.step('fill in by hand, with arithmetic; the Outcome moves', async () => {
    await expect(balance(page)).toHaveText('0')
    await form(page, 'Tax and reliefs')
    await page.getByRole('button', { name: 'Add policy' }).click()
    await fill(page, 'tax.policies.insurer-pin', 'P051664429S')
    await fill(page, 'tax.policies.insurer-name', 'Second Anchor Assurance Ltd')
    await fill(page, 'tax.policies.policy-number', 'SA-1')
    await field(page, 'tax.policies.kind').selectOption('life')
    await field(page, 'tax.policies.insured').selectOption('self')
    await fill(page, 'tax.policies.commencement', '1/9/2016')
    await fill(page, 'tax.policies.premium', '12*2,000')
    await expect(field(page, 'tax.policies.premium')).toHaveValue('24,000')
    await expect(computed(page, 'tax.insurance-relief')).toHaveText('3,600')
    await expect(balance(page)).toHaveText('3,600')
    // A refund of 3,600 where there was none: the relief has made the refund more, not less.
    await expect(page.locator('.balance')).toContainText('Refund')
    await expect(page.locator('.movement')).toContainText('3,600 more than')
  })

  await test.step('the Margin explains a computed line down to the entries', async () => {
    await computed(page, 'tax.tax').click()
    const margin = page.getByRole('complementary', { name: 'Margin' })
    await expect(margin).toContainText('Third Schedule')
    await expect(margin.locator('.bands tbody tr').nth(2)).toContainText('282,336')
    await margin.getByRole('button', { name: /Taxable income/ }).click()
    await expect(page.getByRole('heading', { name: 'Deductions', level: 1 })).toBeVisible()
    await expect(margin).toContainText('110,880')
    await margin.getByRole('button', { name: /Employment income/ }).click()
    await expect(margin.locator('h3')).toHaveText('Employment income')
  })

  await test.step('undo and redo', async () => {
    await form(page, 'Tax and reliefs')
    await page.getByRole('button', { name: 'Remove' }).click()
    await expect(computed(page, 'tax.insurance-relief')).toHaveText('')
    await page.keyboard.press('Control+z')
    await expect(computed(page, 'tax.insurance-relief')).toHaveText('3,600')
    await page.keyboard.press('Control+z')
    await expect(field(page, 'tax.policies.premium')).toHaveValue('')
    await page.keyboard.press('Control+Shift+z')
    await expect(field(page, 'tax.policies.premium')).toHaveValue('24,000')
  })

  await test.step('a refund makes payout details mandatory; Review leads there and back', async () => {
    await step(page, 'review')
    await page.locator('[data-finding="payout.route:missing"]').getByRole('link', { name: 'Go to the line' }).click()
    await expect(page.getByRole('heading', { name: 'Payout account' })).toBeVisible()
    await expect(field(page, 'payout.route')).toBeFocused()
    await field(page, 'payout.route').selectOption('mobile')
    await fill(page, 'payout.mobile-number', '0712 345')
    await expect(page.getByText('A mobile number is 07 or 01').first()).toBeVisible()
    await fill(page, 'payout.mobile-number', '0712 345 678')
    await form(page, 'Declaration')
    await page.getByRole('radio', { name: 'yes' }).click()
    await fill(page, 'declaration.name', 'Wambui Larkspur')
    await field(page, 'declaration.capacity').selectOption('taxpayer')
    await fill(page, 'declaration.date', '15/6/2026')
    await saved(page)
    await step(page, 'review')
    await expect(page.getByText('0 errors, 0 warnings')).toBeVisible()
  })

  await test.step('hand over; the preparer cannot approve', async () => {
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    await expect(page.getByRole('button', { name: 'Hand over for approval' })).toBeHidden()
    await expect(page.getByText('Only an approver approves returns.')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Approve and freeze' })).toBeHidden()
  })

  const mosi = await signIn(browser, servers, 'mosi')
  await test.step('approve, build, and send', async () => {
    await fromDesk(mosi, 'Wambui Larkspur')
    await mosi.getByRole('button', { name: 'Approve and freeze' }).click()
    await mosi.getByRole('link', { name: 'Build and send' }).click()
    await mosi.getByRole('button', { name: 'Build the e-return' }).click()
    await expect(mosi.locator('[data-schema-result]')).toHaveText('valid')
    await servers.fault('delay', 3)
    await mosi.getByRole('button', { name: 'Send to the authority' }).click()
    await mosi.getByRole('button', { name: 'File it' }).click()
    await expect(mosi.getByText('received, not answered yet')).toBeVisible()
    await expect(mosi.getByText(/^ACK-2025-\d{6}$/)).toBeVisible({ timeout: 20_000 })
    await servers.fault('delay', 1)
  })

  await test.step('the Parcel holds e-return, printed copy and receipt', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'aerarium-parcel-'))
    const [download] = await Promise.all([
      mosi.waitForEvent('download'),
      mosi.getByRole('link', { name: 'Download the Parcel' }).click(),
    ])
    const zip = join(folder, 'parcel.zip')
    await download.saveAs(zip)
    execFileSync('python3', ['-m', 'zipfile', '-e', zip, folder])
    expect(execFileSync('pdftotext', ['-layout', join(folder, 'printed-copy.pdf'), '-']).toString()).toContain(
      '3,600.00',
    )
    expect(JSON.parse(readFileSync(join(folder, 'receipt.json'), 'utf8')).status).toBe('accepted')
    const schema = join(import.meta.dirname, '../../src/Aerarium.StandIn/Schemas/ke/employment-income/2025.xsd')
    execFileSync('xmllint', ['--noout', '--schema', schema, join(folder, 'e-return.xml')], { stdio: 'pipe' })
    expect((await servers.filings(PIN)).length).toBe(1)
  })
})

test('a change after approval withdraws it, and a rejection leads to its line', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const mosi = await signIn(browser, servers, 'mosi')

  await test.step('rejected, with the reason at its line', async () => {
    await fromDesk(page, 'Idris Calloway Kamau')
    await expect(page.getByText('The name does not belong to A001100650J')).toBeVisible()
    await page.getByRole('link', { name: 'Go to the line' }).click()
    await expect(field(page, 'taxpayer.name')).toBeFocused()
    await fill(page, 'taxpayer.name', 'Idris Callowaye Kamau')
    await saved(page)
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    await expect(page.getByText('handed over, waiting for approval')).toBeVisible()
  })

  await test.step('approved, then changed: the approval is withdrawn', async () => {
    await mosi.reload()
    await fromDesk(mosi, 'Idris Calloway Kamau')
    await mosi.getByRole('button', { name: 'Approve and freeze' }).click()
    await expect(mosi.getByText('approved and frozen', { exact: true })).toBeVisible()
    await step(page, 'fill')
    await expect(page.getByText('any change withdraws the approval')).toBeVisible()
    await fill(page, 'taxpayer.phone', '0700 111 222')
    await expect(page.getByText('any change withdraws the approval')).toBeHidden()
    await step(page, 'approve')
    await expect(page.getByText('Withdrawn by a change of Rukia Tindall.')).toBeVisible()
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
  })

  await test.step('sent again and accepted', async () => {
    await mosi.getByRole('button', { name: 'Approve and freeze' }).click()
    await mosi.getByRole('link', { name: 'Build and send' }).click()
    await mosi.getByRole('button', { name: 'Build the e-return' }).click()
    await mosi.getByRole('button', { name: 'Send to the authority' }).click()
    await mosi.getByRole('button', { name: 'File it' }).click()
    await expect(mosi.getByText(/^ACK-2025-/)).toBeVisible({ timeout: 20_000 })
  })
})
