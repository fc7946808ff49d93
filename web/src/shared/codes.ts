/** A code of a list, with what it stands for. */
export interface Code {
  code: string
  label: string
}

const words = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[\s,;/-]+/)
    .filter(Boolean)

/** The codes that have every typed word: as a beginning of a word of the label, or as a part of the code; the same rule as the server's. */
export function findCodes<C extends Code>(codes: readonly C[], typed: string): C[] {
  const wanted = words(typed)
  return codes.filter((one) => {
    const label = words(one.label)
    const code = one.code.toLowerCase()
    return wanted.every((word) => code.includes(word) || label.some((w) => w.startsWith(word)))
  })
}

/** The code a person means by what was typed: the code itself, its whole label, or the only one that has all the words; otherwise the text as it is. */
export function meantCode(codes: readonly Code[], typed: string): string {
  const small = typed.trim().toLowerCase()
  if (!small) return typed
  const exact = codes.find((c) => c.code.toLowerCase() === small || c.label.toLowerCase() === small)
  if (exact) return exact.code
  const found = findCodes(codes, typed)
  return found.length === 1 ? found[0]!.code : typed
}
