/** A line of a list that is there to be filled: a code with its row, or with the name its row would have. */
export interface ListedLine {
  code: string
  label: string
  row: string
  present: boolean
}

/** A line for each code in order, with each of its rows or, where it has none, one to be filled; rows without a known code come last. */
export function listedLines(
  choices: readonly { code: string; label: string }[],
  rows: readonly { row: string; code: string }[],
): ListedLine[] {
  const known = new Set(choices.map((choice) => choice.code))
  const taken = new Set(rows.map(({ row }) => row))
  const named = (code: string) => {
    let name = `listed-${code}`.slice(0, 36)
    while (taken.has(name)) name += '-b'
    return name
  }
  return [
    ...choices.flatMap(({ code, label }) => {
      const there = rows.filter((row) => row.code === code)
      return there.length
        ? there.map(({ row }) => ({ code, label, row, present: true }))
        : [{ code, label, row: named(code), present: false }]
    }),
    ...rows.filter(({ code }) => !known.has(code)).map(({ row }) => ({ code: '', label: '', row, present: true })),
  ]
}
