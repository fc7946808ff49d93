import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, field, form, signIn, test } from './servers'

const certificate = (pin: string, pay: number) =>
  Buffer.from(
    `employeePin,employerPin,employerName,months,basicSalary,totalGrossPay\n${pin},P051900417G,Glasshouse Orchestra Trust,12,${pay},${pay}\n`,
  )

test('a company is added, related, and a namesake is asked about', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/clients/new')
  await page.getByLabel('Kind of client').press('ArrowDown')
  await page.getByRole('option', { name: 'Company' }).click()
  await page.getByLabel('Personal identification number').fill('A001234567B')
  await expect(page.getByText('is the letter P, nine digits')).toBeVisible()
  await page.getByLabel('Personal identification number').fill('P001234567B')
  await page.getByLabel('Official name').fill('Sail Lofts Halvorsen, Ltd.')
  await page.getByLabel('Financial year end').fill('31 February')
  await page.getByRole('button', { name: 'Add client' }).click()
  await expect(page.getByText('not a day of the calendar')).toBeVisible()
  await page.getByLabel('Financial year end').fill('31 December')
  await page.getByRole('button', { name: 'Add client' }).click()
  await expect(page.getByText('Halvorsen Sail Lofts Ltd is a client already')).toBeVisible()
  await page.getByRole('button', { name: 'No, add another' }).click()
  await expect(page.getByText('No return of companies of this country is covered yet')).toBeVisible()

  await page.getByLabel('Client to relate').fill('Tamsin')
  await page.getByLabel('Relation', { exact: true }).selectOption('is a director')
  await page.getByRole('button', { name: 'Tamsin Wekesa Quill' }).click()
  await page.getByRole('link', { name: 'Tamsin Wekesa Quill' }).click()
  const relations = page.getByRole('region', { name: 'Relations' })
  await expect(relations.getByRole('table')).toContainText('company directed')
  await relations.getByRole('button', { name: /Remove company directed/ }).click()
  await expect(relations.getByRole('table')).toBeHidden()
})

test('a PDF and an image are attached and shown page by page', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const pdf = Buffer.from(await (await page.request.get('/api/returns/2/printed-copy.pdf')).body())
  await page.goto('/clients/1?view=documents')
  await page.getByLabel('Files to attach').setInputFiles({ name: 'copy.pdf', mimeType: 'application/pdf', buffer: pdf })
  const preview = page.getByRole('figure', { name: 'copy.pdf' })
  await expect(preview).toContainText(/page 1 of \d/)
  const drawn = () =>
    preview.locator('canvas').evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height)
      return data.filter((value, index) => index % 4 === 0 && value < 100).length
    })
  await expect.poll(drawn).toBeGreaterThan(500)
  const first = await drawn()
  await preview.getByRole('button', { name: 'Next page' }).click()
  await expect(preview).toContainText('page 2 of')
  await expect.poll(drawn).not.toBe(first)

  // How many pages it has is held against poppler's pdfinfo.
  const file = join(mkdtempSync(join(tmpdir(), 'aerarium-pdf-')), 'copy.pdf')
  await (await import('node:fs/promises')).writeFile(file, pdf)
  const pages = /Pages:\s+(\d+)/.exec(execFileSync('pdfinfo', [file], { encoding: 'utf8' }))![1]!
  await expect(page.getByRole('row', { name: /copy\.pdf/ })).toContainText(pages)

  // Beside the page it is copied onto; its page stays where it was.
  await page.goto('/returns/2/fill/employment')
  await page.getByRole('button', { name: 'Show a paper beside' }).click()
  const paper = page.getByRole('complementary', { name: 'Paper' })
  await paper.getByRole('button', { name: 'Next page' }).click()
  await expect(paper).toContainText('page 2 of')
  await page.reload()
  await expect(paper).toContainText('page 2 of')
  await paper.getByRole('button', { name: 'Close' }).click()
  await page.goto('/clients/1?view=documents')

  const image = readFileSync(join(import.meta.dirname, '../../docs/screenshots/desk.png'))
  await page.getByLabel('Files to attach').setInputFiles({ name: 'scan.png', mimeType: 'image/png', buffer: image })
  await expect(page.getByRole('img', { name: 'scan.png' })).toBeVisible()
  const width = await page.getByRole('img', { name: 'scan.png' }).evaluate((i: HTMLImageElement) => i.naturalWidth)
  expect(width).toBe(1280)

  await page
    .getByLabel('Files to attach')
    .setInputFiles({ name: 'tool.exe', mimeType: 'image/png', buffer: Buffer.from('MZ\0\0') })
  await expect(page.getByRole('alert')).toContainText("'tool.exe' is not kept")
})

test('a statement is imported once, taken onto the return, ticked off, and followed when it changes', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'rukia')
  await page.goto('/clients/11?view=statements')
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel('File with statements').setInputFiles({ name, mimeType: 'text/csv', buffer })
  await choose('wrong.csv', certificate('A001100210N', 984000))
  await expect(page.getByText("which is Njeri Halvorsen Oduya's")).toBeVisible()
  await choose('bad.csv', Buffer.from('employerPin,employerName,months\nP05,Driftwood,13x\n'))
  await expect(page.getByRole('row', { name: /employerPin/ })).toContainText('P05')
  await choose('good.csv', certificate('A001101100N', 1100000))
  await page.getByRole('button', { name: 'Add 1 statement' }).click()
  await expect(page.getByText('1 statement added.')).toBeVisible()
  await expect(page.getByText("Employer's certificate, Glasshouse Orchestra Trust")).toBeVisible()

  await page.goto('/returns/13/fill/employment')
  await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
  const item = page.locator('.item', { hasText: 'statement-' })
  await expect(item).toContainText('differs from the return')
  await item.getByLabel(/Glasshouse Orchestra/).check()
  await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
  await expect(item).toContainText('on the return')
  await expect(field(page, 'employment.employers.basic-pay')).toHaveValue('1,100,000')
  await expect(page.locator('.line', { hasText: 'Basic pay' }).first()).toContainText('stmt.')
  await item.getByLabel('checked against the original').check()
  await expect(item).toContainText('checked against the original by Rukia Tindall')

  await page.getByRole('link', { name: 'entered and imported there' }).click()
  await page.getByRole('button', { name: 'Change' }).click()
  await page.getByLabel('Basic pay').fill('1 200 000')
  await page.getByRole('button', { name: 'Save statement' }).click()
  await expect(page.getByText('1,200,000')).toBeVisible()
  await page.goBack()
  await form(page, 'Employment')
  await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
  await expect(page.locator('.item', { hasText: 'statement-' })).toContainText('differs from the return')
})

test('everything about a client is exported, and the legal hold on deleting is explained', async ({
  browser,
  servers,
}) => {
  const page = await signIn(browser, servers, 'tarek')
  await page.goto('/clients/7?view=keeping')
  await expect(page.getByText('kept for 5 years (TPA s. 23')).toBeVisible()
  await expect(page.getByRole('cell', { name: '18 Jun 2031' })).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export', exact: true }).click()
  const file = await (await download).path()
  const folder = mkdtempSync(join(tmpdir(), 'aerarium-export-'))
  execFileSync('python3', ['-m', 'zipfile', '-e', file, folder])
  const manifest = JSON.parse(readFileSync(join(folder, 'manifest.json'), 'utf8')) as {
    files: { name: string; sha256: string }[]
  }
  const names = manifest.files.map((entry) => entry.name).join(' ')
  for (const part of ['client.json', 'acts.json', 'entries.csv', 'e-return.xml', 'receipt-'])
    expect(names).toContain(part)
  for (const entry of manifest.files) {
    const content = readFileSync(join(folder, entry.name))
    expect(createHash('sha256').update(content).digest('hex')).toBe(entry.sha256)
  }

  await page.goto('/clients/new')
  await page.getByLabel('Personal identification number').fill('A007700990Z')
  await page.getByLabel('Official name').fill('Ferro Passing-By')
  await page.getByRole('button', { name: 'Add client' }).click()
  await page.getByRole('link', { name: 'Export and deletion' }).click()
  await page.getByLabel('Official name, typed again').fill('Ferro Passing-By')
  await page.getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByRole('heading', { name: 'Clients' })).toBeVisible()
  await page.getByLabel('Filter the clients').fill('Ferro')
  await expect(page.getByText('0 clients')).toBeVisible()
  await page.goto('/acts')
  await expect(page.getByText(/unbroken/)).toBeVisible()
})
