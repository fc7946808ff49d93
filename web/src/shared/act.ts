import { ref } from 'vue'

/** An act of the person: busy while it runs, the problem in words when it fails. */
export function useAct() {
  const busy = ref(false)
  const problem = ref('')

  /** Runs it; true when it went well. */
  async function act(work: () => Promise<unknown>): Promise<boolean> {
    problem.value = ''
    busy.value = true
    try {
      await work()
      return true
    } catch (error) {
      problem.value = (error as Error).message
      return false
    } finally {
      busy.value = false
    }
  }
  return { busy, problem, act }
}
