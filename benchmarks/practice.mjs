// What benchmarks ask of a practice: signing in as somebody of the demonstration, and waiting for a verification.
export async function signIn(address, email = 'rukia@lanternreef.example', password = 'kelp-and-ledger') {
  const session = await fetch(`${address}/api/session`)
  const cookies = session.headers.getSetCookie().map((c) => c.split(';')[0])
  const headers = { 'content-type': 'application/json', cookie: cookies.join('; ') }
  headers['X-Aerarium-Token'] = (await session.json()).token
  const body = JSON.stringify({ email, password, code: null })
  const entered = await fetch(`${address}/api/session/sign-in`, { method: 'POST', headers, body })
  if (!entered.ok) throw new Error(`Sign-in answered ${entered.status}`)
  headers.cookie = [...cookies, ...entered.headers.getSetCookie().map((c) => c.split(';')[0])].join('; ')
  headers['X-Aerarium-Token'] = (await (await fetch(`${address}/api/session`, { headers })).json()).token
  return headers
}

/** The verification under way, once it has ended. */
export async function verified(address, headers) {
  for (;;) {
    const { run } = await (await fetch(`${address}/api/acts/verification/run`, { headers })).json()
    if (!run.running) return run
    await new Promise((resolve) => setTimeout(resolve, 20))
  }
}
