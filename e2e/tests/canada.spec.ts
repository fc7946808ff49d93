import type { Page } from '@playwright/test'
import {
  acceptWarnings,
  approveAndFile,
  balance,
  computed,
  expect,
  field,
  fill,
  form,
  saved,
  signIn,
  step,
  test,
} from './servers'

/**
 * A family in British Columbia, example W4 of the law sheet (constructed from the Income Tax Act and the province's act, from memory): the student's tuition of 9,400 leaves 5,000
 * federal and 535.49 provincial for the parent she names, whose refund then is 2,683.99.
 */
test('a student and her parent: tuition tied from return to return, the household beside each other, an acknowledgement', async ({
  browser,
  servers,
}) => {
  test.setTimeout(150_000)
  const page = await signIn(browser, servers, 'pia')

  async function add(number: string, name: string, born: string) {
    await page.goto('/clients/new')
    await page.getByLabel('Country').press('ArrowDown')
    await page.getByRole('option', { name: 'Canada' }).click()
    await page.getByLabel('Social insurance number').fill(number)
    await page.getByLabel('Official name').fill(name)
    await page.getByLabel('Date of birth').fill(born)
    for (const [label, option] of [
      ['Province of residence', 'British Columbia'],
      ['Marital status', 'Single'],
      ['Language of correspondence', 'English'],
    ] as const) {
      await page.getByRole('combobox', { name: label }).press('ArrowDown')
      await page.getByRole('option', { name: option }).click()
    }
    await page.getByRole('textbox', { name: 'Postal code' }).fill('V8W 1A4')
    await page.getByLabel('Postal address').fill('3 Inkwell Lane, Kelp Landing')
    await page.getByRole('button', { name: 'Add client' }).click()
    await expect(page.getByRole('heading', { name })).toBeVisible()
    const client = page.url()
    await page.getByRole('button', { name: 'Open 2025', exact: true }).click()
    await page.getByRole('button', { name: 'Open 2025 all the same' }).click()
    await expect(page).toHaveURL(/returns/)
    return { client, address: page.url().replace(/\/(scope|fill).*$/, '') }
  }

  async function scope(yes: string[]) {
    for (const line of yes) {
      await field(page, `scope.${line}`).focus()
      await page.keyboard.press('y')
    }
    await page.getByRole('button', { name: /Answer the other/ }).click()
    await field(page, 'scope.resident').focus()
    await page.keyboard.press('y')
    await saved(page)
  }

  async function take(title: RegExp) {
    await page.getByRole('button', { name: 'Take from statements and the authority' }).click()
    const consent = page.getByRole('button', { name: 'Record the consent and ask' })
    await expect(consent.or(page.getByLabel(title))).toBeVisible()
    if (await consent.isVisible()) await consent.click()
    await page.getByLabel(title).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
  }

  let parent = { client: '', address: '' }
  let student = { client: '', address: '' }
  await test.step('both are added and related', async () => {
    parent = await add('046002960', 'Isolde Brackenridge', '15/1/1981')
    student = await add('046003703', 'Wilhelmina Brackenridge', '12/9/2005')
    await page.goto(student.client)
    await page.getByLabel('Relation', { exact: true }).selectOption('parent')
    await page.getByLabel('Client to relate').fill('Isolde')
    await page.getByRole('button', { name: 'Isolde Brackenridge' }).click()
    await expect(page.getByRole('link', { name: 'Household 2025' })).toBeVisible()
  })

  await test.step('the student: slips from the authority, her own use first, the rest named to the parent', async () => {
    await page.goto(`${student.address}/scope`)
    await scope(['employment', 'student'])
    await form(page, 'Employment')
    await take(/Tidepool Nursery School/)
    await expect(computed(page, 'employment.income')).toHaveText('18,600')
    await form(page, 'Tuition')
    await page.getByLabel(/Kelp Landing College/).check()
    await page.getByRole('button', { name: 'Take 1 onto the return' }).click()
    await field(page, 'tuition.designee').selectOption('parent')
    await fill(page, 'tuition.designee-name', 'Isolde Brackenridge')
    await fill(page, 'tuition.designee-sin', '046 002 961')
    await field(page, 'tuition.designee-sin').focus()
    await expect(page.getByText('of which the last is a check digit').first()).toBeVisible()
    await fill(page, 'tuition.designee-sin', '046 002 960')
    await field(page, 'tuition.designation-signed').focus()
    await page.keyboard.press('y')
    await expect(computed(page, 'tuition.federal-transferred')).toHaveText('5,000')
    await expect(computed(page, 'tuition.bc-transferred')).toHaveText('535.49')
    await expect(computed(page, 'tuition.federal-carried')).toHaveText('4,400')
    await expect(balance(page)).toHaveText('900')
  })

  await test.step('the parent: both amounts have come, and the refund with them', async () => {
    await page.goto(`${parent.address}/scope`)
    await scope(['employment', 'student-transfer'])
    await form(page, 'Employment')
    await take(/Pelican Street Bookshop/)
    await form(page, 'Federal tax')
    await expect(field(page, 'federal.tuition-received')).toHaveValue('5,000')
    await form(page, 'British Columbia tax')
    await expect(field(page, 'bc.tuition-received')).toHaveValue('535.49')
    await field(page, 'bc.rents').focus()
    await page.keyboard.press('n')
    await expect(balance(page)).toHaveText('2,683.99')
  })

  await test.step('the household beside each other; carrying the tuition forward is told with what it costs', async () => {
    await page.getByRole('link', { name: 'Household', exact: true }).click()
    const side = page.getByRole('table', { name: 'Returns side by side' })
    await expect(side.getByRole('row', { name: /^Balance/ })).toContainText('(3,583.99)')
    await expect(page.getByRole('region', { name: 'Shared claims' })).toContainText(
      'Tuition of Wilhelmina, left after own use',
    )
    await expect(page.getByRole('complementary')).toContainText('Carried forward')
    await page.getByRole('link', { name: 'Next income' }).click()
    // The next 1,000 is absorbed by the student's own tuition from 18,652.49 on: so much less goes to the parent.
    await expect(
      page.getByRole('table', { name: 'What makes up the cost' }).getByRole('row', { name: /^Wilhelmina/ }),
    ).toContainText('of Isolde: 796.51 less')
    await page.getByRole('link', { name: 'Side by side' }).click()
    await side
      .getByRole('row', { name: /^Federal tax/ })
      .getByRole('link')
      .first()
      .click()
    await expect(page).toHaveURL(/fill\/federal/)
  })

  await test.step('the student names nobody: the parent is left with nothing, and the household finds it back', async () => {
    await page.goto(`${student.address}/fill/tuition`)
    await field(page, 'tuition.designee').selectOption('none')
    await saved(page)
    await page.goto(student.client)
    await page.getByRole('link', { name: 'Household 2025' }).click()
    const claims = page.getByRole('region', { name: 'Shared claims' })
    await expect(claims).toContainText('carried forward')
    await claims.getByRole('button', { name: /^Take Tuition/ }).click()
    await expect(page.getByRole('status')).toContainText('Written into')
    await expect(
      page.getByRole('table', { name: 'Returns side by side' }).getByRole('row', { name: /^Balance/ }),
    ).toContainText('(3,583.99)')
  })

  await test.step('the parent declares, and the return is approved, filed and acknowledged', async () => {
    await page.goto(`${parent.address}/fill/declaration`)
    await declare(page, 'Isolde Brackenridge')
    await step(page, 'review')
    await acceptWarnings(page, 'Looked at with the client.')
    await expect(page.getByText('0 errors, 0 warnings')).toBeVisible()
    await step(page, 'approve')
    await page.getByRole('button', { name: 'Hand over for approval' }).click()
    const mosi = await signIn(browser, servers, 'mosi')
    await approveAndFile(mosi, page.url())
    expect((await servers.filings('046002960')).length).toBe(1)
    await page.goto(parent.client)
    await page.getByRole('link', { name: 'Household 2025' }).click()
    await page.getByRole('link', { name: 'Send together' }).click()
    await expect(page.getByRole('row', { name: /^Isolde/ })).toContainText(/ACK-2025-\d{6}/)
  })
})

async function declare(page: Page, name: string) {
  await field(page, 'declaration.true-and-complete').focus()
  await page.keyboard.press('y')
  await fill(page, 'declaration.name', name)
  await fill(page, 'declaration.date', '15/6/2026')
  await field(page, 'declaration.authorised').focus()
  await page.keyboard.press('y')
  await fill(page, 'declaration.authorised-on', '14/6/2026')
  await field(page, 'declaration.authorised-by').selectOption('pen')
  await saved(page)
}
