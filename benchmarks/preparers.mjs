// Two hundred preparers editing at once against the published server: every one has a return of their own and leaves a
// field every two seconds or so. Prints percentiles of one run, edits lost (counted), and the server's memory; and, because the
// machine is shared and every edit is made durable, what a bare write of a page made durable takes beside it in the same run.
import { closeSync, fsyncSync, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { percentiles } from './percentiles.mjs'
import { signIn } from './practice.mjs'

const [address, serverProcess] = process.argv.slice(2)
const PREPARERS = 200
const SECONDS = 20
const PAUSE_MS = 2_000

const first = await signIn(address)
const list = await (
  await fetch(
    `${address}/api/desk?list=open&year=2025&definition=ke%2Femployment-income&order=client&limit=${PREPARERS}`,
    { headers: first },
  )
).json()
const people = []
for (const item of list.items) {
  const view = await (await fetch(`${address}/api/returns/${item.id}`, { headers: first })).json()
  const row = view.rows.find((rows) => rows.section === 'employment.employers')?.rows[0] ?? null
  const line = row ? 'employment.employers.basic-pay' : 'employment.care-paid'
  people.push({ id: item.id, headers: await signIn(address), line, row, typed: null })
}

const times = []
let refused = 0
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
async function work(person, number) {
  await pause((number * PAUSE_MS) / people.length)
  const until = performance.now() + SECONDS * 1000
  for (let edit = 1; performance.now() < until; edit++) {
    person.typed = String(1000 + edit)
    const change = {
      kind: 'set',
      line: person.line,
      row: person.row,
      section: null,
      position: null,
      value: person.typed,
      seen: Number.MAX_SAFE_INTEGER,
    }
    const started = performance.now()
    const answer = await fetch(`${address}/api/returns/${person.id}/entries`, {
      method: 'PATCH',
      headers: person.headers,
      body: JSON.stringify({ changes: [change] }),
    })
    const result = await answer.json()
    times.push(performance.now() - started)
    if (!answer.ok || result.refusals.length + result.conflicts.length > 0) refused++
    await pause(PAUSE_MS)
  }
}
const folder = mkdtempSync(join(tmpdir(), 'aerarium-bench-'))
const file = openSync(join(folder, 'reference'), 'w')
const page = Buffer.alloc(4096, 1)
const reference = []
/** Written apart from the people, so that it only waits for the disk. */
async function writeBeside() {
  const until = performance.now() + SECONDS * 1000
  while (performance.now() < until) {
    const started = performance.now()
    writeSync(file, page)
    fsyncSync(file)
    reference.push(performance.now() - started)
    await pause(50)
  }
}
await Promise.all([...people.map(work), writeBeside()])
closeSync(file)
rmSync(folder, { recursive: true })

let lost = 0
for (const person of people) {
  const view = await (await fetch(`${address}/api/returns/${person.id}`, { headers: person.headers })).json()
  const value = view.values.find((v) => v.line === person.line && (v.row ?? null) === person.row)
  if ((value?.value ?? value?.kept) !== person.typed) lost++
}
const memory = readFileSync(`/proc/${serverProcess}/status`, 'utf8').match(/VmHWM:\s+(\d+)/)[1]
console.log(`${people.length} preparers at once, an edit at the server: ${percentiles(times)}`)
console.log(`a bare write made durable, beside it: ${percentiles(reference)}`)
console.log(
  `edits refused ${refused}, last edits lost ${lost}; most memory of the server ${Math.round(memory / 1024)} MB`,
)
