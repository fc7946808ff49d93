import { placeKey, type Finding, type Spot } from './returnStore'

/**
 * Where the next finding stands (or, with -1, the one before), seen from the cursor; from anywhere else, where the first stands (or the
 * last). A place with several findings is visited once. Null when there is nowhere to go.
 */
export function findingSpot(findings: Finding[], cursor: Spot | null, by: 1 | -1): Spot | null {
  const places = new Map<string, Spot>()
  for (const { acceptance, lines, row } of findings) {
    const spot = { line: lines[0] ?? '', row: row ?? null }
    const key = placeKey(spot.line, spot.row)
    if (!acceptance && spot.line && !places.has(key)) places.set(key, spot)
  }
  const spots = [...places.values()]
  const at = cursor ? [...places.keys()].indexOf(placeKey(cursor.line, cursor.row)) : -1
  if (at < 0) return spots.at(by > 0 ? 0 : -1) ?? null
  return spots[(at + by + spots.length) % spots.length]!
}
