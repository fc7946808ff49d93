// What another value of the law would do to ten thousand returns of one kind and year: asked part by part as the page asks, cold and warm, while another
// person reads a return over and over. Prints the time of each run and the percentiles of the readings beside it.
import { percentiles } from './percentiles.mjs'
import { signIn } from './practice.mjs'

const address = process.argv[2]
const RUNS = 4
const law = `${address}/api/law/ke/employment-income/2025/effect`
const headers = await signIn(address)

async function effectOf(value) {
  const body = JSON.stringify({ changes: [{ figure: 'personal-relief', value, ranges: null }] })
  let [after, returns, moved] = [0, 0, 0]
  const started = performance.now()
  while (after !== null) {
    const answer = await fetch(`${law}?after=${after}`, { method: 'POST', headers, body })
    if (!answer.ok) throw new Error(`The effect answered ${answer.status}: ${await answer.text()}`)
    const part = await answer.json()
    ;[after, returns, moved] = [part.next ?? null, returns + part.checked, moved + part.moved.length]
  }
  return { ms: performance.now() - started, returns, moved }
}

async function readings(during) {
  const times = []
  let over = false
  const work = during().finally(() => (over = true))
  while (!over) {
    const started = performance.now()
    await (await fetch(`${address}/api/returns/2`, { headers })).arrayBuffer()
    times.push(performance.now() - started)
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
  return { result: await work, times }
}

for (let run = 0; run < RUNS; run++) {
  const { result, times } = await readings(() => effectOf(`${30_000 + run}`))
  console.log(
    `effect of another value${run === 0 ? ', first asked' : ''}: ${result.returns} returns, ${result.moved} move, ${Math.round(result.ms)} ms, ` +
      `${Math.round((1000 * result.ms) / result.returns)} µs each; a return read meanwhile: ${percentiles(times)}`,
  )
}
