import { HubConnectionBuilder, HubConnectionState, LogLevel, type HubConnection } from '@microsoft/signalr'
import type { Schemas } from '../api/client'
import { released } from '../shared/press'

const RETRY_MS = 1500

/** What a page does with what the server tells of the return that is open on it. */
export interface Listener {
  changed(result: Schemas['EditResult']): void
  findings(view: Schemas['FindingsView']): void
  remarks(remarks: Schemas['RemarkView'][]): void
  presence(names: string[]): void
  /** Its stage, or what the authority says of it, changed. */
  status(): void
  /** Listens, for the first time, by a connection of this id; the return's revision then. */
  listening(connection: string | null, revision: number): void
  /** Listens again; what was said meanwhile was missed. */
  back(connection: string | null): void
}

/** Listens to what is said of a return, from the first connection to `stop`, over losses of it. */
export class LiveReturn {
  private connection: HubConnection | null = null
  private stopped = false
  private listened = false

  constructor(
    private readonly id: number,
    private readonly listener: Listener,
  ) {}

  async start(): Promise<void> {
    const { id, listener } = this
    const ofThis =
      <T>(handler: (told: T) => void) =>
      async (returnId: number, told: T) => {
        await released()
        if (returnId === id) handler(told)
      }
    const connection = new HubConnectionBuilder()
      .withUrl('/hubs/returns')
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => RETRY_MS })
      .configureLogging(LogLevel.None)
      .build()
    this.connection = connection
    connection.on('changed', async (result: Schemas['EditResult']) => {
      await released()
      listener.changed(result)
    })
    connection.on('findings', ofThis(listener.findings))
    connection.on('remarks', ofThis(listener.remarks))
    connection.on('presence', ofThis(listener.presence))
    connection.on('status', ofThis(listener.status))
    connection.onreconnected(async (connectionId) => {
      await connection.invoke('Join', id)
      listener.back(connectionId ?? null)
    })
    // The server cut the connection: rights have changed. What is still allowed is listened to again.
    connection.onclose(() => this.again())
    let revision: number
    try {
      await connection.start()
      revision = await connection.invoke<number>('Join', id)
    } catch {
      if (connection.state === HubConnectionState.Disconnected) this.again()
      else void connection.stop()
      return
    }
    if (this.listened) listener.back(connection.connectionId)
    else listener.listening(connection.connectionId, revision)
    this.listened = true
  }

  private again() {
    if (!this.stopped) setTimeout(() => !this.stopped && void this.start(), RETRY_MS)
  }

  async stop(): Promise<void> {
    this.stopped = true
    await this.connection?.stop()
  }
}
