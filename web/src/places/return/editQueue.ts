import { ref, type Ref } from 'vue'
import { api, call, Problem, Unreachable, type Schemas } from '../../api/client'

type Change = Schemas['EntryChange']
type Result = Schemas['EditResult']

const RETRY_MS = 1500
/** What one request takes. */
const MOST_AT_ONCE = 2000

/**
 * Changes on their way to the server: kept in the browser until the server has them, sent in order, one request at a
 * time. A lost connection keeps them and tries again.
 */
export class EditQueue {
  readonly offline: Ref<boolean> = ref(false)
  readonly savedAt: Ref<string> = ref('')
  readonly waiting: Ref<number> = ref(0)
  /** The live connection, so that the server need not tell it what it did itself. */
  connection: string | null = null
  private changes: Change[] = []
  private sending = false
  private timer: number | undefined
  private readonly key: string

  constructor(
    private readonly returnId: number,
    private readonly onResult: (result: Result, sent: Change[]) => void,
    private readonly onProblem: (problem: Problem, sent: Change[]) => void,
    private readonly onBack: () => Promise<void>,
  ) {
    this.key = `aerarium-unsent-${returnId}`
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
  async flush(): Promise<void> {
    if (this.sending || !this.changes.length) return
    this.sending = true
    window.clearTimeout(this.timer)
    const sent = this.changes.slice(0, MOST_AT_ONCE)
    try {
      const result = await call(
        api.PATCH('/api/returns/{id}/entries', {
          params: { path: { id: this.returnId }, header: { 'X-Aerarium-Connection': this.connection ?? undefined } },
          body: { changes: sent },
        }),
      )
      this.done(sent)
      this.savedAt.value = result.savedAt
      this.onResult(result, sent)
      if (this.offline.value) {
        this.offline.value = false
        await this.onBack()
      }
    } catch (error) {
      if (error instanceof Unreachable) {
        this.offline.value = true
        this.timer = window.setTimeout(() => {
          this.sending = false
          void this.flush()
        }, RETRY_MS)
        return
      }
      this.done(sent)
      this.onProblem(error as Problem, sent)
    }
    this.sending = false
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
