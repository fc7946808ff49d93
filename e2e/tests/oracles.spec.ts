import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Validator } from '@seriousme/openapi-schema-validator'
import { Ajv2020 } from 'ajv/dist/2020.js'
import addFormats from 'ajv-formats'
import ICAL from 'ical.js'
import { stdnum } from 'stdnum'
import { expect, Servers, signIn, test } from './servers'

/** Texts around the pattern of Kenya's personal identification number, the same in every run. */
function corpus(): string[] {
  let state = 20260618
  const random = (below: number) => (state = (state * 48271) % 2147483647) % below
  const letters = 'AAAPX'
  const texts = [
    'A001234567B',
    'P051987654Q',
    'A12345678C',
    'B001234567D',
    'a001234567b',
    ' A001234567B ',
    'A001234567',
    '',
  ]
  for (let index = 0; index < 150; index++) {
    const digits = Array.from({ length: random(4) ? 9 : 8 + 2 * random(2) }, () => random(10)).join('')
    texts.push(`${letters[random(letters.length)]}${digits}${random(4) ? letters[random(letters.length)] : random(10)}`)
  }
  return texts
}

test('identifiers agree with a general-purpose library (stdnum from npm)', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const texts = corpus()
  const ask = (kind: string) =>
    page.evaluate(
      async ([values, kind]) => {
        const session = await (await fetch('/api/session')).json()
        const answers: (string | null)[] = []
        for (const value of values as string[]) {
          const response = await fetch('/api/clients/check-identifier', {
            method: 'POST',
            headers: { 'content-type': 'application/json', 'X-Aerarium-Token': session.token },
            body: JSON.stringify({ country: 'ke', kind, value }),
          })
          answers.push((await response.json()).problem ?? null)
        }
        return answers
      },
      [texts, kind] as const,
    )
  for (const kind of ['individual', 'company'] as const) {
    const problems = await ask(kind)
    const verdicts = texts.map((text) => {
      const found = stdnum.KE!.pin!.validate(text)
      return found.isValid && (kind === 'individual' ? found.isIndividual : found.isCompany)
    })
    expect(verdicts.filter(Boolean).length).toBeGreaterThan(10)
    expect(texts.filter((_, index) => (problems[index] === null) !== verdicts[index])).toEqual([])
  }
})

test("the API's description is a valid OpenAPI 3.1 document", async () => {
  const file = join(import.meta.dirname, '../../web/src/api/openapi.json')
  const result = await new Validator().validate(JSON.parse(readFileSync(file, 'utf8')))
  expect(result.errors ?? []).toEqual([])
  expect(result.valid).toBe(true)
})

test('the calendar of deadlines is read by another program (ical.js from npm)', async ({ browser, servers }) => {
  const page = await signIn(browser, servers, 'rukia')
  const text = await (await page.request.get('/api/deadlines.ics')).text()
  const calendar = new ICAL.Component(ICAL.parse(text) as unknown[])
  const events = calendar.getAllSubcomponents('vevent').map((event) => new ICAL.Event(event))
  const njeri = events.filter((event) => event.summary.startsWith('Njeri Halvorsen Oduya'))
  expect(njeri.map((event) => event.startDate.toString()).sort()).toEqual(['2026-04-30', '2026-06-30'])
  expect(njeri.every((event) => event.startDate.isDate)).toBe(true)
  const per = events.filter((event) => event.summary.startsWith('Per Halvorsen Oduya'))
  expect(per.map((event) => event.startDate.toString())).toEqual(['2026-06-30'])
  expect(new Set(events.map((event) => event.uid)).size).toBe(events.length)
  // RFC 5545, section 3.1: lines end with CRLF and are folded at 75 octets.
  expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true)
  expect(text.replace(/\r\n/g, '')).not.toContain('\n')
})

test('a quarter in JSON is valid to another program (ajv from npm) by the schema the authority publishes', async ({
  browser,
}) => {
  const servers = new Servers()
  await servers.start()
  try {
    const as = async (person: 'rukia' | 'mosi' | 'tarek') => {
      const page = await signIn(browser, servers, person)
      const { token } = await (await page.request.get('/api/session')).json()
      return async (method: string, path: string, data?: object) => {
        const answer = await page.request.fetch(path, { method, data, headers: { 'X-Aerarium-Token': token } })
        expect(answer.ok(), `${method} ${path}: ${await answer.text()}`).toBe(true)
        return answer
      }
    }
    const [rukia, mosi, tarek] = [await as('rukia'), await as('mosi'), await as('tarek')]
    await tarek('PUT', '/api/practice/e-return-form', { definition: 'ph/individual-quarterly', form: 'json' })
    const id = 18
    const declared = { 'true-and-complete': 'yes', name: 'Liwayway', capacity: 'taxpayer', date: '2026-06-18' }
    await rukia('PATCH', `/api/returns/${id}/entries`, {
      changes: Object.entries(declared).map(([name, value]) => ({
        kind: 'set',
        line: `declaration.${name}`,
        value,
        seen: 1_000_000,
      })),
    })
    const view = await (await rukia('GET', `/api/returns/${id}`)).json()
    for (const finding of view.findings)
      if (finding.severity === 'warning')
        await rukia('POST', `/api/returns/${id}/findings/accept`, {
          finding: finding.id,
          reason: 'Known to the client',
        })
    await rukia('POST', `/api/returns/${id}/approval/hand-over`)
    await mosi('POST', `/api/returns/${id}/approval/approve`)
    await mosi('POST', `/api/returns/${id}/sending/build`)
    const eReturn = await (await mosi('GET', `/api/returns/${id}/sending/e-return`)).json()
    const schema = await (await fetch(`${servers.authority}/schemas/ph/individual-quarterly/2025.schema.json`)).json()
    const ajv = new Ajv2020({ strict: false })
    addFormats(ajv)
    const validate = ajv.compile(schema)
    expect(validate(eReturn), JSON.stringify(validate.errors)).toBe(true)
    for (const break_ of [
      (r: typeof eReturn) => (r.Result.Balance = '12'),
      (r: typeof eReturn) => delete r.Taxpayer.Tin,
      (r: typeof eReturn) => (r.Header.More = 'x'),
      (r: typeof eReturn) => (r.Declaration.TrueAndComplete = 'true'),
    ]) {
      const broken = structuredClone(eReturn)
      break_(broken.QuarterlyIncomeTaxReturn)
      expect(validate(broken)).toBe(false)
    }
  } finally {
    servers.stop()
  }
})
