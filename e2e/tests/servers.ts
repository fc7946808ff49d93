import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test as base, type Browser, type Page } from '@playwright/test'

const root = join(import.meta.dirname, '..', '..')

async function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number }
      server.close(() => resolve(port))
    })
  })
}

async function answers(address: string): Promise<void> {
  for (let attempt = 0; attempt < 400; attempt++) {
    try {
      if ((await fetch(`${address}/health`)).ok) return
    } catch {
      // Not up yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error(`${address} did not answer`)
}

/** All servers of a run play on 18 June 2026, from eight in the morning on, whenever they are started and started again. */
const aheadSeconds = () => process.env.AERARIUM_AHEAD_SECONDS!

/** Where `prepareDemonstration` left a demonstration that every run of the servers begins with a copy of. */
const prepared = () => process.env.AERARIUM_DEMONSTRATION

/** The published server and stand-in with a fresh demonstration. */
export class Servers {
  address = ''
  authority = ''
  private server: ChildProcess | null = null
  private standIn: ChildProcess | null = null
  readonly folder = mkdtempSync(join(tmpdir(), 'aerarium-e2e-'))

  async start(demo = true) {
    if (demo && prepared()) cpSync(prepared()!, this.folder, { recursive: true })
    this.address = `http://127.0.0.1:${await freePort()}`
    this.authority = `http://127.0.0.1:${await freePort()}`
    this.standIn = spawn(
      'dotnet',
      [
        join(root, 'artifacts/standin/Aerarium.StandIn.dll'),
        ...['--urls', this.authority, '--Data', join(this.folder, 'standin'), '--Clock:AheadSeconds', aheadSeconds()],
        ...['--AnswerAfterSeconds', '1'],
      ],
      { stdio: 'inherit' },
    )
    await answers(this.authority)
    await this.startServer(demo)
  }

  async startServer(demo = true) {
    this.server = spawn(
      'dotnet',
      [
        join(root, 'artifacts/server/Aerarium.Server.dll'),
        ...['--urls', this.address, '--Data', join(this.folder, 'practice'), '--Authority', this.authority],
        ...['--Mail:SilentAfterSeconds', '4'],
        ...['--Web', join(root, 'web/dist'), '--Demo', String(demo), '--Clock:AheadSeconds', aheadSeconds()],
      ],
      { stdio: ['ignore', 'ignore', 'inherit'] },
    )
    await answers(this.address)
  }

  /** A file in the practice's data folder. */
  data(name: string): string {
    return readFileSync(join(this.folder, 'practice', name), 'utf8')
  }

  /** Kills the server without warning. */
  async killServer() {
    const gone = new Promise((resolve) => this.server!.once('exit', resolve))
    this.server!.kill('SIGKILL')
    await gone
  }

  /** Lets both write what they have and end; the folder stays. */
  async end() {
    for (const process of [this.server!, this.standIn!]) {
      const gone = new Promise((resolve) => process.once('exit', resolve))
      process.kill('SIGTERM')
      await gone
    }
  }

  async fault(act: string, seconds?: number) {
    const body = new URLSearchParams({ act, ...(seconds === undefined ? {} : { seconds: String(seconds) }) })
    await fetch(`${this.authority}/console/faults`, { method: 'POST', body, redirect: 'manual' })
  }

  async filings(pin: string): Promise<{ number: string; acknowledgement: string | null; arrivals: number }[]> {
    const all = (await (await fetch(`${this.authority}/console/submissions`)).json()) as { pin: string }[]
    return all.filter((s) => s.pin === pin) as never
  }

  stop() {
    this.server?.kill('SIGKILL')
    this.standIn?.kill('SIGKILL')
    rmSync(this.folder, { recursive: true, force: true })
  }
}

const people = {
  rukia: ['rukia@lanternreef.example', 'kelp-and-ledger'],
  mosi: ['mosi@lanternreef.example', 'tide-and-seal'],
  pia: ['pia@lanternreef.example', 'reed-and-margin'],
  tarek: ['tarek@lanternreef.example', 'buoy-and-calendar'],
  ines: ['ines@lanternreef.example', 'lamp-and-keyring'],
  noor: ['noor@lanternreef.example', 'glass-and-window'],
} as const

export type Person = keyof typeof people

/** A new browser window of its own with a person signed in. */
export async function signIn(browser: Browser, servers: Servers, person: Person): Promise<Page> {
  const page = await (await browser.newContext({ baseURL: servers.address })).newPage()
  await page.goto('/')
  await page.getByLabel('E-mail address').fill(people[person][0])
  await page.getByLabel('Password').fill(people[person][1])
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
  return page
}

/** Opens a client's return from the Desk; in a long list one looks for it. Other stories add returns to the same practice. */
export async function fromDesk(page: Page, client: string) {
  await page.getByLabel('Filter the Desk').fill(client)
  await expect(page.locator('tr.item').first()).toContainText(client)
  await page.getByRole('link', { name: client }).first().click()
}

/** Opens a step of the return that is open: scope, fill, review, approve, send or after. */
export async function step(page: Page, name: string) {
  await page
    .getByRole('navigation', { name: 'Steps of the return' })
    .getByRole('link', { name: new RegExp(`^${name}`, 'i') })
    .click()
}

/** Opens a form from the Contents. */
export async function form(page: Page, title: string) {
  await page.locator('.contents a.form', { hasText: title }).click()
  await expect(page.getByRole('heading', { name: title, level: 1 })).toBeVisible()
}

/** The entry field of a line; in a repeating section, of the row with that number. */
export function field(page: Page, line: string, row = 0) {
  return page.locator(`[data-place^="${line}|"][data-field]`).nth(row)
}

/** What a computed line shows. */
export function computed(page: Page, line: string) {
  return page.locator(`button.computed[data-place^="${line}|"]`).first()
}

export async function fill(page: Page, line: string, text: string, row = 0) {
  await field(page, line, row).fill(text)
  await field(page, line, row).press('Enter')
}

/** Everything typed has reached the server. */
export async function saved(page: Page) {
  await expect(page.locator('.saved[data-waiting="0"]')).toContainText(/^saved /)
}

/** Accepts every warning left on the Review step. */
export async function acceptWarnings(page: Page, reason: string) {
  await expect(page.getByRole('heading', { name: 'Findings' })).toBeVisible()
  const warnings = page.getByRole('button', { name: 'Accept with a reason' })
  while (await warnings.count()) {
    const before = await warnings.count()
    await warnings.first().click()
    await page.getByLabel('Reason').fill(reason)
    await page.getByRole('button', { name: 'Accept', exact: true }).click()
    // The button gives way to the field at once; the warning is accepted when the field is gone too.
    await expect(page.getByLabel('Reason')).toHaveCount(0)
    await expect(warnings).toHaveCount(before - 1)
  }
}

/** An approver approves the return at an address, builds its e-return and files it, until it is acknowledged. */
export async function approveAndFile(approver: Page, address: string, beforeSending = async () => {}) {
  await approver.goto(address)
  await approver.getByRole('button', { name: 'Approve and freeze' }).click()
  await step(approver, 'send')
  await approver.getByRole('button', { name: 'Build the e-return' }).click()
  await expect(approver.locator('[data-schema-result]')).toHaveText('valid')
  await beforeSending()
  await approver.getByRole('button', { name: 'Send to the authority' }).click()
  await approver.getByRole('button', { name: 'File it' }).click()
  await expect(approver.getByText(/^ACK-2025-\d{6}$/)).toBeVisible({ timeout: 20_000 })
}

export const balance = (page: Page) => page.locator('[data-balance] .sum')

export const test = base.extend<{ windows: void }, { servers: Servers }>({
  /** No window of one test stays open beside the next. */
  windows: [
    async ({ browser }, use) => {
      await use()
      await Promise.all(browser.contexts().map((context) => context.close()))
    },
    { auto: true },
  ],
  servers: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const servers = new Servers()
      await servers.start()
      await use(servers)
      servers.stop()
    },
    { scope: 'worker' },
  ],
})

export { expect }
