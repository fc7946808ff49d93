import createClient from 'openapi-fetch'
import { released } from '../shared/press'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** Something the server refused, in its own words. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly line?: string,
  ) {
    super(message)
  }
}

/** The server cannot be reached; what was typed is kept and sent later. */
export class Unreachable extends Error {}

let token = ''

/** Keeps the antiforgery token that goes with every change. */
export function useToken(value: string) {
  token = value
}

/** Calls to the server. A call leaves at once, before anything is drawn that the same key press changed. */
const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch(request) {
    if (request.method !== 'GET') request.headers.set('X-Aerarium-Token', token)
    return window.fetch(request)
  },
})

type Outcome<T> = { data?: T; error?: unknown; response: Response }

/** The data of a call, or a Problem or Unreachable; not while a button is being pressed, which must not move under the hand. */
export async function call<T>(pending: Promise<Outcome<T>>): Promise<T> {
  let outcome: Outcome<T>
  try {
    outcome = await pending
  } catch {
    throw new Unreachable('The server cannot be reached.')
  } finally {
    await released()
  }
  const { data, error, response } = outcome
  if (response.ok) return data as T
  if (response.status === 502 || response.status === 504) {
    const detail = (error as { detail?: string })?.detail
    if (!detail) throw new Unreachable('The server cannot be reached.')
  }
  if (response.status === 401 && !window.location.pathname.startsWith('/sign-in')) {
    window.location.assign(`/sign-in?to=${encodeURIComponent(window.location.pathname + window.location.search)}`)
  }
  const problem = (error ?? {}) as { detail?: string; title?: string; line?: string }
  const message =
    problem.detail ??
    (response.status === 403
      ? 'Your role does not allow this.'
      : (problem.title ?? `The server answered ${response.status}.`))
  throw new Problem(response.status, message, problem.line)
}

/** A file as the body of a request, byte for byte. */
export const fileBody = (file: Blob) => ({
  body: file as never,
  bodySerializer: (body: unknown) => body as BodyInit,
  headers: { 'Content-Type': 'application/octet-stream' },
})

export { api }
