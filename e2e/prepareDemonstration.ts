import { rmSync } from 'node:fs'
import { Servers } from './tests/servers'

/** Makes the demonstration once; every run of the servers begins with a copy of it. */
export default async function prepareDemonstration() {
  const servers = new Servers()
  await servers.start()
  await servers.end()
  process.env.AERARIUM_DEMONSTRATION = servers.folder
  return () => rmSync(servers.folder, { recursive: true, force: true })
}
