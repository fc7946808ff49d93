// The same 10,000 returns by a general-purpose spreadsheet engine, HyperFormula: the workings are loaded once in each of two
// workers, the changed entries of every return are put in as one batch, and the balance is read and compared. Prints the
// throughput beside the engine's of the same run.
import { readFileSync } from 'node:fs'
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads'
import { HyperFormula } from '../e2e/node_modules/hyperformula/dist/hyperformula.full.js'

const WORKERS = 2
const model = JSON.parse(readFileSync(isMainThread ? process.argv[2] : workerData.path, 'utf8'))

function recalculate(from, to) {
  const engine = HyperFormula.buildFromSheets(model.sheets, { licenseKey: 'gpl-v3' })
  const place = ({ sheet, at: [row, col] }) => ({ sheet: engine.getSheetId(sheet), row, col })
  const inputs = model.inputs.map((input) => ({ at: place(input), values: input.values }))
  const balance = place(model.balance)
  let wrong = 0
  const started = performance.now()
  for (let n = from; n < to; n++) {
    engine.batch(() => inputs.forEach(({ at, values }) => engine.setCellContents(at, values[n])))
    if (Math.abs(engine.getCellValue(balance) - model.expected[n]) > 0.005) wrong++
  }
  return { seconds: (performance.now() - started) / 1000, wrong }
}

if (isMainThread) {
  const count = model.expected.length
  const shares = Array.from({ length: WORKERS }, (_, n) => [(count / WORKERS) * n, (count / WORKERS) * (n + 1)])
  const done = await Promise.all(
    shares.map(
      ([from, to]) =>
        new Promise((resolve, reject) => {
          const worker = new Worker(new URL(import.meta.url), { workerData: { path: process.argv[2], from, to } })
          worker.on('message', resolve).on('error', reject)
        }),
    ),
  )
  const perSecond = count / Math.max(...done.map((d) => d.seconds))
  const wrong = done.reduce((sum, d) => sum + d.wrong, 0)
  console.log(
    `the same formulas by HyperFormula, ${WORKERS} workers: ${Math.round(perSecond)} returns a second, the engine does ${(model.engine / perSecond).toFixed(0)} times as many; ${wrong} of ${count} balances differ`,
  )
} else {
  parentPort.postMessage(recalculate(workerData.from, workerData.to))
}
