// Kills the server at random while people edit and send, for some minutes: node benchmarks/faults.mjs PORT MINUTES. Every edit that was answered
// has to be there afterwards, every return that was sent has to be filed once. Prints kills, edits, filings and losses; fails when there are any.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { signIn, verified } from './practice.mjs'

const [port, minutes] = process.argv.slice(2).map(Number)
const EDITORS = 6
const RETURNS = 400
const root = join(import.meta.dirname, '..', 'artifacts')
const data = mkdtempSync(join(tmpdir(), 'aerarium-faults-'))
const [address, authority] = [`http://127.0.0.1:${port}`, `http://127.0.0.1:${port + 1}`]
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
const run = (program, folder, at, ...more) =>
  spawn(
    'dotnet',
    [
      join(root, program),
      '--urls',
      at,
      '--Data',
      join(data, folder),
      '--Clock:AheadSeconds',
      process.env.AERARIUM_AHEAD_SECONDS,
      ...more,
    ],
    { stdio: 'ignore' },
  )

async function answering(at) {
  for (;;) {
    if (
      await fetch(`${at}/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return
    await pause(50)
  }
}

const standIn = run('standin/Aerarium.StandIn.dll', 'standin', authority, '--AnswerAfterSeconds', '0.2')
await answering(authority)
let server
const start = async () => {
  server = run(
    'server/Aerarium.Server.dll',
    'practice',
    address,
    '--Authority',
    authority,
    '--Demo',
    'true',
    '--Demo:Returns',
    String(RETURNS),
    '--Attempts:PerMinute',
    '100000',
    '--Passwords:MemoryKiB',
    '64',
  )
  await answering(address)
}
await start()

const counts = { kills: 0, edits: 0, unanswered: 0, sent: 0 }
const kept = new Map()
let over = false
const list = await (
  await fetch(`${address}/api/desk?list=open&definition=ke%2Femployment-income&limit=${EDITORS * 4}`, {
    headers: await signIn(address),
  })
).json()
const ids = list.items.map((item) => item.id)

/** Edits its returns one after the other; what is answered is kept. */
async function editor(number) {
  let headers = null
  for (let edit = 1; !over; edit++) {
    const id = ids[(number * 4 + (edit % 4)) % ids.length]
    try {
      headers ??= await signIn(address)
      const change = {
        kind: 'set',
        line: 'taxpayer.postal-address',
        row: null,
        section: null,
        position: null,
        value: String(edit),
        seen: 1e15,
      }
      const answer = await fetch(`${address}/api/returns/${id}/entries`, {
        method: 'PATCH',
        headers,
        body: JSON.stringify({ changes: [change] }),
      })
      if (answer.ok) {
        kept.set(id, edit)
        counts.edits++
      }
    } catch {
      counts.unanswered++
      headers = null
      await pause(100)
    }
  }
}

/** Sends what the demonstration has approved; tries until it is answered. */
async function sender() {
  while (!over && counts.sent === 0) {
    try {
      const headers = await signIn(address, 'mosi@lanternreef.example', 'tide-and-seal')
      const approved = await (await fetch(`${address}/api/desk?list=approved&limit=10`, { headers })).json()
      for (const { id } of approved.items) {
        await fetch(`${address}/api/returns/${id}/sending/build`, { method: 'POST', headers })
        if ((await fetch(`${address}/api/returns/${id}/sending/send`, { method: 'POST', headers })).ok) counts.sent++
      }
    } catch {
      await pause(200)
    }
  }
}

const until = Date.now() + minutes * 60_000
const work = [...Array(EDITORS).keys()].map(editor).concat(sender())
while (Date.now() < until) {
  await pause(300 + Math.random() * 2_500)
  server.kill('SIGKILL')
  await new Promise((resolve) => server.once('exit', resolve))
  counts.kills++
  await start()
}
over = true
await Promise.all(work)

const headers = await signIn(address, 'tarek@lanternreef.example', 'buoy-and-calendar')
const ask = async (path, method = 'GET') => (await fetch(address + path, { method, headers })).json()
let lost = 0
for (const [id, edit] of kept) {
  const view = await ask(`/api/returns/${id}`)
  const value = view.values.find((v) => v.line === 'taxpayer.postal-address')
  if (Number(value?.value ?? value?.kept) < edit) lost++
}
while ((await ask('/api/desk?list=sent')).total > 0) await pause(200)
const all = (await ask('/api/desk?list=all&limit=500')).items
const filings = []
for (const { id } of all)
  filings.push(
    ...(await ask(`/api/returns/${id}/sending`)).sendings.map((s) => s.acknowledgement ?? s.submission).filter(Boolean),
  )
const doubled = filings.length - new Set(filings).size
await ask('/api/acts/verification', 'POST')
const verification = await verified(address, headers)
const wrong = verification.checks.flatMap((check) => check.wrong)
console.log(
  `kills ${counts.kills}, edits answered ${counts.edits}, unanswered ${counts.unanswered}, edits lost ${lost}`,
)
console.log(`filings ${filings.length}, doubled ${doubled}; verification: ${wrong.length} things do not hold`)
server.kill()
standIn.kill()
rmSync(data, { recursive: true, force: true })
process.exit(lost + doubled + wrong.length === 0 ? 0 : 1)
