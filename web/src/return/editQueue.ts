import { ref, type Ref } from 'vue'
import { api, call, Problem, Unreachable, type Schemas } from '../api/client'

type Change = Schemas['EntryChange']
type Result = Schemas['EditResult']

const RETRY_MS = 1500
const SIGNED_OUT = 401
/** What one request takes. */
const MOST_AT_ONCE = 2000

/**
 * Changes on their way to the server: kept in the browser until the server has them, sent in order, one request at a
 * time. A lost connection, or having been signed out, keeps them and tries again; they are kept for the person who typed them.
 */
export class EditQueue {
  readonly offline: Ref<boolean> = ref(false)
  readonly savedAt: Ref<string> = ref('')
  readonly waiting: Ref<number> = ref(0)
  /** The live connection, so that the server need not tell it what it did itself. */
  connection: string | null = null
  private changes: Change[] = []
  private sending = false
  private underWay: Promise<void> = Promise.resolve()
  private timer: number | undefined
  private readonly key: string

  constructor(
    private readonly returnId: number,
    person: number,
    private readonly onResult: (result: Result, sent: Change[]) => void,
    private readonly onProblem: (problem: Problem, sent: Change[]) => void,
    private readonly onBack: () => void,
  ) {
    this.key = `aerarium-unsent-${person}-${returnId}`
    try {
      this.changes = JSON.parse(localStorage.getItem(this.key) ?? '[]') as Change[]
    } catch {
      this.changes = []
    }
    this.waiting.value = this.changes.length
  }

  /** Changes not yet with the server. */
  get unsent(): readonly Change[] {
    return this.changes
  }

  push(changes: Change[]) {
    this.changes.push(...changes)
    this.keep()
    void this.flush()
  }

  /** Sends what is waiting. */
  flush(): Promise<void> {
    if (!this.sending && this.changes.length) this.underWay = this.send()
    return this.underWay
  }

  /**
   * Waits until the server has everything, before an act that goes by what the return says.
   * @throws Unreachable when it cannot have it now
   */
  async settled(): Promise<void> {
    if (!this.offline.value) await this.flush()
    const left = this.changes.length
    if (left)
      throw new Unreachable(
        `${left === 1 ? 'One change has' : `${left} changes have`} not reached the server yet; wait until the top bar says they are saved, then do this again.`,
      )
  }

  private async send(): Promise<void> {
    this.sending = true
    window.clearTimeout(this.timer)
    const sent = this.changes.slice(0, MOST_AT_ONCE)
    let result: Result | undefined
    try {
      result = await call(
        api.PATCH('/api/returns/{id}/entries', {
          params: { path: { id: this.returnId }, header: { 'X-Aerarium-Connection': this.connection ?? undefined } },
          body: { changes: sent },
        }),
      )
    } catch (error) {
      if (!(error instanceof Problem) || error.status === SIGNED_OUT) {
        this.offline.value = true
        this.timer = window.setTimeout(() => {
          this.sending = false
          void this.flush()
        }, RETRY_MS)
        return
      }
      this.done(sent)
      this.onProblem(error, sent)
    }
    if (result) {
      this.done(sent)
      this.savedAt.value = result.savedAt
      this.onResult(result, sent)
    }
    this.sending = false
    if (this.offline.value) {
      this.offline.value = false
      this.onBack()
    }
    if (this.changes.length) await this.flush()
  }

  stop() {
    window.clearTimeout(this.timer)
  }

  private done(sent: Change[]) {
    this.changes = this.changes.slice(sent.length)
    this.keep()
  }

  private keep() {
    this.waiting.value = this.changes.length
    try {
      if (this.changes.length) localStorage.setItem(this.key, JSON.stringify(this.changes))
      else localStorage.removeItem(this.key)
    } catch {
      // A block larger than the browser keeps: it is on its way all the same, and is kept again once it is small enough.
      localStorage.removeItem(this.key)
    }
  }
}
