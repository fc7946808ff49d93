// A verification of everything a practice keeps, beside the work: how long it takes, how soon it stops when it is told to, and what an edit
// takes meanwhile. Prints one run.
import { percentiles } from './percentiles.mjs'
import { signIn, verified } from './practice.mjs'

const address = process.argv[2]
const tarek = await signIn(address, 'tarek@lanternreef.example', 'buoy-and-calendar')
const rukia = await signIn(address)
const ask = async (path, method = 'GET') => (await fetch(address + path, { method, headers: tarek })).json()
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
const ended = () => verified(address, tarek)

await ask('/api/acts/verification', 'POST')
await pause(1_000)
let started = performance.now()
await ask('/api/acts/verification/stop', 'POST')
const stopped = await ended()
console.log(
  `verification, from 'stop' to its end: ${Math.round(performance.now() - started)} ms, stopped ${stopped.stopped}`,
)

started = performance.now()
await ask('/api/acts/verification', 'POST')
let over = false
const whole = ended().then((run) => ((over = true), run))
const edits = []
for (let edit = 1; !over; edit++) {
  const change = {
    kind: 'set',
    line: 'taxpayer.postal-address',
    row: null,
    section: null,
    position: null,
    value: `Quay ${edit}`,
    seen: 1e15,
  }
  const from = performance.now()
  await fetch(`${address}/api/returns/2/entries`, {
    method: 'PATCH',
    headers: rukia,
    body: JSON.stringify({ changes: [change] }),
  })
  edits.push(performance.now() - from)
  await pause(100)
}
const { checks } = await whole
const wrong = checks.flatMap((check) => check.wrong)
console.log(
  `verification of the practice: ${((performance.now() - started) / 1000).toFixed(1)} s, ${checks.map((c) => c.count).join(' + ')} things, ${wrong.length} wrong`,
)
console.log(`an edit meanwhile, at the server: ${percentiles(edits)}`)
for (const words of wrong.slice(0, 3)) console.log(`  ${words}`)
