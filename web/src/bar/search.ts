/** A place one can go to. */
export interface Target {
  kind: string
  label: string
  detail: string
  words: string
  to: string
}

/** Targets that hold every typed word, in any order; a word of five letters or more may have one typo. */
export function search(targets: Target[], typed: string, most: number): Target[] {
  const wanted = words(typed)
  if (!wanted.length) return []
  return targets
    .map((target) => ({ target, score: score(words(target.words), wanted) }))
    .filter((hit) => hit.score > 0)
    .sort((left, right) => right.score - left.score)
    .slice(0, most)
    .map((hit) => hit.target)
}

function words(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^a-z0-9.()]+/)
    .filter(Boolean)
}

function score(has: string[], wanted: string[]): number {
  let total = 0
  for (const word of wanted) {
    const best = Math.max(0, ...has.map((h) => match(h, word)))
    if (best === 0) return 0
    total += best
  }
  return total
}

function match(has: string, wanted: string): number {
  if (has === wanted) return 4
  if (has.startsWith(wanted)) return 3
  if (has.includes(wanted)) return 2
  return wanted.length >= 5 && withinOneTypo(has.slice(0, wanted.length + 1), wanted) ? 1 : 0
}

function withinOneTypo(left: string, right: string): boolean {
  let start = 0
  while (start < left.length && start < right.length && left[start] === right[start]) start++
  const [a, b] = [left.slice(start), right.slice(start)]
  const swapped = a.length > 1 && b.length > 1 && a[0] === b[1] && a[1] === b[0]
  return (
    b.slice(1) === a.slice(1, b.length) ||
    b === a.slice(1, b.length + 1) ||
    b.slice(1) === a.slice(0, b.length - 1) ||
    (swapped && b.slice(2) === a.slice(2, b.length))
  )
}
