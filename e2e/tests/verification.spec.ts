import type { Browser } from '@playwright/test'
import { expect, field, fill, fromDesk, saved, Servers, signIn, step, test } from './servers'

/** From approval to what follows it: refused by the client, approved again, an outage, accepted, verified, assessed, amended. */
test('approve, refuse, approve again, outage, accept, verification, amendment', async ({ browser }) => {
  test.setTimeout(120_000)
  // A demonstration of its own: others file the same return.
  const servers = new Servers()
  await servers.start()
  try {
    await story(browser, servers)
  } finally {
    servers.stop()
  }
})

async function story(browser: Browser, servers: Servers) {
  const page = await signIn(browser, servers, 'rukia')
  const mosi = await signIn(browser, servers, 'mosi')
  const client = await (await browser.newContext({ baseURL: servers.address })).newPage()
  let link = ''

  await test.step('the client looks at the approved return and refuses it', async () => {
    await fromDesk(page, 'Zuri Lindgren Mwangi')
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Ask the client to accept' }).click()
    link = (await page.locator('[data-link]').textContent())!
    await client.goto(link)
    await expect(client.getByRole('heading', { name: 'Zuri Lindgren Mwangi' })).toBeVisible()
    await expect(client.getByText('27,680.40')).toBeVisible()
    await client.getByLabel('Your name').fill('Zuri Lindgren Mwangi')
    await client.getByRole('button', { name: 'Something is wrong' }).click()
    await expect(client.getByRole('alert')).toContainText('Say in a remark what is not right')
    await client.getByLabel(/^Remark/).fill('The telephone number is my old one')
    await client.getByRole('button', { name: 'Something is wrong' }).click()
    await expect(client.getByRole('status')).toContainText('You refused this return')
    await expect(page.locator('[data-client-answer]')).toContainText('refused by Zuri')
  })

  await test.step('the figure is corrected, which says what changed and kills the link', async () => {
    await step(page, 'fill')
    await fill(page, 'taxpayer.phone', '0700 222 333')
    await saved(page)
    await step(page, 'approve')
    const changed = page.getByRole('region', { name: 'Changed since' })
    await expect(changed.getByRole('row')).toHaveCount(1)
    await expect(changed).toContainText('0700 222 333')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    await client.goto(link)
    await expect(client.getByRole('alert')).toContainText('This link works no longer')
  })

  await test.step('approved again, accepted by the client, sent into an outage and waited out', async () => {
    await mosi.goto(page.url())
    await mosi.getByRole('button', { name: 'Approve and freeze' }).click()
    await mosi.getByRole('button', { name: 'Ask the client to accept' }).click()
    await client.goto((await mosi.locator('[data-link]').textContent())!)
    await client.getByLabel('Your name').fill('Zuri Lindgren Mwangi')
    await client.getByRole('button', { name: 'Accept this return' }).click()
    await expect(client.getByRole('status')).toContainText('You accepted this return')
    await mosi.getByRole('link', { name: 'Build and send' }).click()
    await mosi.getByRole('button', { name: 'Build the e-return' }).click()
    await servers.fault('outage')
    await mosi.getByRole('button', { name: 'Send to the authority' }).click()
    await mosi.getByRole('button', { name: 'File it' }).click()
    await expect(mosi.locator('.problem')).toContainText(/not available|left alone/, { timeout: 20_000 })
    await servers.fault('restore')
    await expect(mosi.getByText(/^ACK-2025-\d{6}$/)).toBeVisible({ timeout: 60_000 })
    expect((await servers.filings('A001100540Z')).length).toBe(1)
  })

  await test.step('selected for verification: documents, declaration, answer', async () => {
    const filing = (await servers.filings('A001100540Z'))[0]!
    await fetch(`${servers.authority}/console/submissions/${filing.number}/select`, {
      method: 'POST',
      redirect: 'manual',
    })
    await step(mosi, 'after')
    const verification = mosi.getByRole('region', { name: 'Verification' })
    await expect(async () => {
      if (!(await verification.isVisible())) await mosi.reload()
      await expect(verification).toBeVisible({ timeout: 2_000 })
    }).toPass({ timeout: 40_000 })
    for (const label of [
      'Certificates of tax withheld',
      'Proof of payments',
      'Books or statements behind the income',
    ]) {
      const file = { name: `${label}.txt`, mimeType: 'text/plain', buffer: Buffer.from(label) }
      // The row shows what came as soon as the server tells it, a moment before its own answer.
      await expect(verification.getByLabel(`Send: ${label}`)).toBeEnabled()
      await verification.getByLabel(`Send: ${label}`).setInputFiles(file)
      await expect(verification.getByRole('row', { name: new RegExp(label) })).toContainText(`${label}.txt`)
    }
    await verification.getByLabel('Supplementary declaration').fill('All papers are true copies of the originals.')
    await verification.getByRole('button', { name: 'Answer' }).click()
    await expect(verification).toContainText('answered by Mosi Lindqvist')
  })

  await test.step('the assessment stands beside the return, and an amendment starts from it', async () => {
    await expect(mosi.getByRole('region', { name: 'Assessment' })).toContainText(
      /assessed the return as filed|figures of 7 differ/,
    )
    await mosi.getByRole('button', { name: 'Open an amended return' }).click()
    await expect(mosi.getByText('2025, amended')).toBeVisible()
    await mosi.goto('/clients/5?view=standing')
    await expect(mosi.getByRole('region', { name: 'Not filed' })).toContainText('amended')
    await expect(mosi.getByRole('region', { name: 'Not paid' })).toContainText(
      /(27,680\.40|47,028\.40) KES left to pay/,
    )
  })
}

test('remarks, attachments and an override stand beside the figures', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const mosi = await signIn(browser, servers, 'mosi')

  await test.step('a remark is answered, seen by the other at once, and settled', async () => {
    await page.goto('/returns/15/fill/business?line=business.services')
    await expect(page.getByText('remark', { exact: true })).toBeVisible()
    await page.getByRole('tab', { name: /^Remarks/ }).click()
    await expect(page.getByText('The three quarters show 890,000.')).toBeVisible()
    await mosi.goto('/returns/15/review')
    await page.getByLabel('Remark', { exact: true }).fill('Yes, a late invoice of the hotel.')
    await page.getByRole('button', { name: 'Answer' }).click()
    await expect(mosi.getByText('Yes, a late invoice of the hotel.')).toBeVisible()
    await page.getByRole('button', { name: 'Resolve' }).click()
    await expect(mosi.getByText('Yes, a late invoice of the hotel.')).toBeHidden()
  })

  await test.step('attachments are counted and settle their finding', async () => {
    await page.goto('/returns/15/fill/attachments')
    const missing = { name: 'certificate.txt', mimeType: 'text/plain', buffer: Buffer.from('certificate') }
    await page.getByLabel('Attach: Certificates of compensation').setInputFiles(missing)
    await expect(page.locator('[data-place="attachments.compensation-certificates|"] .count')).toHaveText('1')
  })

  await test.step('the surcharge is overridden with its reason, and comes back', async () => {
    await page.goto('/returns/15/fill/charges?line=charges.surcharge')
    await page.getByRole('button', { name: 'Override with a reason' }).click()
    await page.getByLabel('Amount instead').fill('0')
    await page.getByLabel('Reason', { exact: true }).fill('Abated, letter of 12 June 2026')
    await page.getByRole('button', { name: 'Override', exact: true }).click()
    await expect(field(page, 'charges.surcharge-override-reason')).toHaveValue('Abated, letter of 12 June 2026')
    await expect(page.locator('[data-line="charges.surcharge|"] .origin')).toHaveText('overrid.')
    await page.getByRole('button', { name: 'Restore the computed amount' }).click()
    await expect(field(page, 'charges.surcharge-override-reason')).toHaveCount(0)
  })

  await test.step('joint or separate is not asked of somebody alone; the other choices are', async () => {
    await page.goto('/returns/15/review?view=alternatives')
    await expect(page.getByText('Method for the year').first()).toBeVisible()
    await expect(page.getByText('One return together with the spouse?')).toHaveCount(0)
  })
})
