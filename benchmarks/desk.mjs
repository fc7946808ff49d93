// The Desk with a crowd of returns: from opening it to its first rows, and from choosing a list to its rows, in Chromium
// against the published server. Prints percentiles of one run.
import { chromiumOptions } from '../e2e/chromium.mjs'
import { chromium } from '../e2e/node_modules/@playwright/test/index.mjs'
import { percentiles } from './percentiles.mjs'

const address = process.argv[2]
const ROUNDS = 20
const browser = await chromium.launch(chromiumOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: address })
await page.goto(address)
await page.getByLabel('E-mail address').fill('rukia@lanternreef.example')
await page.getByLabel('Password').fill('kelp-and-ledger')
await page.getByRole('button', { name: 'Sign in' }).click()
await page.locator('tr.item').first().waitFor()

const first = []
for (let round = 0; round < ROUNDS; round++) {
  await page.getByRole('link', { name: 'Practice' }).click()
  await page.locator('main.practice h1').waitFor()
  first.push(
    await page.evaluate(
      () =>
        new Promise((resolve) => {
          const started = performance.now()
          document.querySelector('header a[href="/desk"]').click()
          const look = () =>
            document.querySelector('tr.item') ? resolve(performance.now() - started) : requestAnimationFrame(look)
          look()
        }),
    ),
  )
}

const changes = []
for (let round = 0; round < ROUNDS; round++) {
  for (const list of ['Waiting for approval', 'Not started', 'All', 'Open']) {
    changes.push(
      await page.evaluate(
        (label) =>
          new Promise((resolve) => {
            const before = document.querySelector('.desk .cuts .secondary').textContent
            const button = [...document.querySelectorAll('.filters button')].find((b) => b.textContent.includes(label))
            const started = performance.now()
            button.click()
            const look = () =>
              document.querySelector('.desk .cuts .secondary').textContent !== before
                ? resolve(performance.now() - started)
                : requestAnimationFrame(look)
            look()
          }),
        list,
      ),
    )
  }
}
await browser.close()
console.log(`desk, first rows: ${percentiles(first)}`)
console.log(`desk, rows of another list: ${percentiles(changes)}`)
