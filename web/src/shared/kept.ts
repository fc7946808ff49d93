import { api, call } from '../api/client'
import { saveBlob } from './download'

/** Ids from here on belong to files that clients keep; nothing of them is stored on the server. */
const FIRST_KEPT = 1_000_000_000_000
const IDS_PER_FILE = 1_000

export const isKept = (id: number) => id >= FIRST_KEPT

/** The id under which the file of a client or return is open. */
export const fileOf = (id: number) => id - (id % IDS_PER_FILE)

/** Writes the file and hands it to the browser to save. */
export async function saveKept(id: number, name: string) {
  const content = await call(
    api.POST('/api/kept/{kept}/file', { params: { path: { kept: id } }, parseAs: 'blob' }) as never,
  )
  saveBlob(content as Blob, `${name.replace(/[^\p{L}\p{N}]+/gu, '-')}.aer`)
}

/** The bytes of a file as base64, as the API takes them. */
export async function base64(file: Blob): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  let text = ''
  for (let at = 0; at < bytes.length; at += 8_192) text += String.fromCharCode(...bytes.subarray(at, at + 8_192))
  return btoa(text)
}
