const MS_UNTIL_FORGOTTEN = 10_000

/** Hands a file that the server wrote to the browser to save. */
export function saveBlob(content: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(content)
  link.download = name
  link.click()
  window.setTimeout(() => URL.revokeObjectURL(link.href), MS_UNTIL_FORGOTTEN)
}
