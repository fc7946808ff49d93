// How much the tests notice: single changes to the countries' rules and to the core's formulas, one at a time in a copy of the repository, each built
// and given to the tests of the core and of the countries. Prints the score and what nobody noticed. The last word narrows it to files whose path
// has it, such as Barbados.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const [seed = '1', number = '10', minutes = '15', where = ''] = process.argv.slice(2)
const root = join(import.meta.dirname, '..')
const copy = mkdtempSync(join(tmpdir(), 'aerarium-mutants-'))
const PLACES = ['src/Aerarium.Countries', 'src/Aerarium.Core/Formulas']
/** What is written there, and what is written instead. */
const CHANGES = [
  [/ \+ /g, () => ' - '],
  [/ - /g, () => ' + '],
  [/ \* /g, () => ' + '],
  [/ < /g, () => ' <= '],
  [/ <= /g, () => ' < '],
  [/ > /g, () => ' >= '],
  [/ >= /g, () => ' > '],
  [/ & /g, () => ' | '],
  [/ \| /g, () => ' & '],
  [/ && /g, () => ' || '],
  [/\bMin\(/g, () => 'Max('],
  [/\bMax\(/g, () => 'Min('],
  [/\bAtLeastZero\(/g, () => '('],
  [/(?<=[(, ])\d[\d_]*(?=[,)m; ])/g, (figure) => String(Number(figure.replaceAll('_', '')) + 1)],
]

/** The same numbers for the same seed (mulberry32, public domain; from memory). */
function randomOf(start) {
  let state = start >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

function run(program, ...words) {
  return spawnSync(program, words, { cwd: copy, encoding: 'utf8', timeout: 300_000 })
}

/** Every place at which a change can be made, in code and not in comments, texts or words of the law. */
function places() {
  const found = []
  const files = PLACES.flatMap((place) =>
    readdirSync(join(copy, place), { recursive: true }).map((file) => join(place, file)),
  )
  for (const file of files.filter((name) => name.endsWith('.cs') && name.includes(where)).sort()) {
    let at = 0
    for (const line of readFileSync(join(copy, file), 'utf8').split('\n')) {
      const code = line.replace(/"(?:[^"\\]|\\.)*"/g, (text) => '~'.repeat(text.length))
      if (!/^\s*(\/\/|using |namespace )/.test(code) && !/Words|Spreadsheet|Label/.test(code))
        for (const [pattern, instead] of CHANGES)
          for (const match of code.matchAll(pattern))
            found.push({ file, line, at: at + match.index, was: match[0], now: instead(match[0]) })
      at += line.length + 1
    }
  }
  return found
}

const noticed = () =>
  [
    ['Aerarium.Core.Tests'],
    ['Aerarium.Countries.Tests', '--filter-not-class', 'Aerarium.Countries.Tests.WorkingsTests'],
  ].some(([tests, ...words]) => {
    const program = join(copy, 'artifacts', 'bin', tests, 'release', tests)
    return run(program, '--no-ansi', '--stop-on-fail', 'on', ...words).status !== 0
  })

const build = () =>
  run('dotnet', 'build', 'tests/Aerarium.Countries.Tests', '-c', 'Release', '-v', 'quiet').status === 0 &&
  run('dotnet', 'build', 'tests/Aerarium.Core.Tests', '-c', 'Release', '-v', 'quiet').status === 0

try {
  spawnSync('git', ['clone', '-q', root, copy])
  if (!build() || noticed()) throw new Error('The repository does not pass before anything is changed.')
  const random = randomOf(Number(seed))
  const all = places()
  const until = Date.now() + Number(minutes) * 60_000
  let tried = 0
  const survivors = []
  while (tried < Number(number) && Date.now() < until) {
    const place = all[Math.floor(random() * all.length)]
    const path = join(copy, place.file)
    const whole = readFileSync(path, 'utf8')
    writeFileSync(path, whole.slice(0, place.at) + place.now + whole.slice(place.at + place.was.length))
    // What the compiler refuses is no change of the rules.
    if (build()) {
      tried++
      if (!noticed())
        survivors.push(`${place.file}: '${place.was.trim()}' made '${place.now.trim()}' in ${place.line.trim()}`)
    }
    writeFileSync(path, whole)
  }
  console.log(
    `${tried - survivors.length} of ${tried} single changes were noticed, of ${all.length} places, seed ${seed}`,
  )
  for (const survivor of survivors) console.log(`not noticed: ${survivor}`)
} finally {
  rmSync(copy, { recursive: true, force: true })
}
