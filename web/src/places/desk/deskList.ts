import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { daysLeft } from '../../shared/format'

export type Item = Schemas['DeskItem']
export type Question = Schemas['DeskQuestion']

/** Rows read at first, more than a screen holds; and rows read on while scrolling. */
const FIRST = 24
const PAGE = 100

/** The lists a practice works through, in the order of the work. */
export const lists: { name: string; label: string; count: keyof Schemas['DeskCounts'] }[] = [
  { name: 'open', label: 'Open', count: 'open' },
  { name: 'not-started', label: 'Not started', count: 'notStarted' },
  { name: 'waiting', label: 'Waiting for approval', count: 'waiting' },
  { name: 'approved', label: 'Approved', count: 'approved' },
  { name: 'sent', label: 'Sent, unanswered', count: 'sent' },
  { name: 'rejected', label: 'Rejected', count: 'rejected' },
  { name: 'overdue', label: 'Overdue', count: 'overdue' },
  { name: 'accepted', label: 'Accepted', count: 'accepted' },
  { name: 'unpaid', label: 'Unpaid', count: 'unpaid' },
  { name: 'all', label: 'All', count: 'all' },
]

export const orders = [
  { value: 'group', title: 'by group' },
  { value: 'client', title: 'by client' },
  { value: 'due', title: 'by deadline' },
  { value: 'stage', title: 'by stage' },
  { value: 'findings', title: 'by findings' },
  { value: 'balance', title: 'by balance' },
  { value: 'holder', title: 'by person assigned' },
]

/** How a step of a return is drawn. */
export function tone(item: Item, step: number): string {
  if (step > item.step) return ''
  if (item.stage === 'rejected' && step === item.step) return 'bad'
  if ((item.stage === 'waiting' || item.stage === 'sent') && step === item.step) return 'seal'
  return 'done'
}

const STEPS = 5

/** What is left until a return is due; what goes to no authority is done once it is approved. */
export function due(item: Item): string {
  if (item.stage === 'accepted' || item.stage === 'sent') return 'sent'
  return item.stage === 'approved' && item.step === STEPS ? 'done' : daysLeft(item.daysLeft)
}

export const anything = (): Question => ({
  list: 'open',
  search: null,
  holderId: null,
  tag: null,
  definition: null,
  year: null,
  order: 'group',
  descending: null,
})

/** What a question sends: only what was asked. */
function asked(question: Question): Partial<{ [key in keyof Question]: NonNullable<Question[key]> }> {
  return Object.fromEntries(Object.entries(question).filter(([, value]) => value !== null && value !== ''))
}

/** A list of the Desk: asked anew whenever the question changes, and read on page by page. */
export function useDeskList() {
  const question = reactive(anything())
  const items = shallowRef<Item[]>([])
  const total = ref(0)
  const summary = shallowRef<Schemas['DeskSummary'] | null>(null)
  const problem = ref('')
  let latest = 0

  const page = (offset: number, limit: number) =>
    call(api.GET('/api/desk', { params: { query: { ...asked(question), offset, limit } } }))

  /** Reads as many rows as are shown, at least a screenful; an answer that was overtaken is dropped. */
  async function load(rows = FIRST) {
    const turn = ++latest
    try {
      const first = await page(0, Math.min(rows, 2 * PAGE))
      if (turn !== latest) return
      items.value = rows > 2 * PAGE ? [...first.items, ...items.value.slice(first.items.length)] : first.items
      total.value = first.total
      problem.value = ''
    } catch (error) {
      if (turn === latest) problem.value = (error as Error).message
    }
  }

  async function more() {
    if (items.value.length >= total.value) return
    const turn = ++latest
    const next = await page(items.value.length, PAGE)
    if (turn !== latest) return
    // Where nothing follows the list is at its end, whatever was counted before.
    if (next.items.length) items.value = [...items.value, ...next.items]
    else total.value = items.value.length
  }

  /** Reads on until the whole list is here, up to a number of rows. */
  async function all(most: number) {
    while (items.value.length < Math.min(total.value, most)) {
      const before = items.value.length
      await more()
      if (items.value.length === before) return
    }
  }

  const loadSummary = async () => (summary.value = await call(api.GET('/api/desk/summary')))
  const refresh = () => Promise.all([load(Math.max(FIRST, items.value.length)), loadSummary()])
  watch(question, () => void load())

  const groups = computed(() => {
    const byGroup = new Map<string, Item[]>()
    for (const item of items.value) {
      const name = question.order === 'group' ? (item.group ?? '') : question.order === 'due' ? item.due : 'list'
      byGroup.set(name, [...(byGroup.get(name) ?? []), item])
    }
    return [...byGroup]
  })
  const exportAddress = computed(
    () =>
      `/api/desk/export.csv?${new URLSearchParams(Object.entries(asked(question)).map(([key, value]) => [key, String(value)]))}`,
  )
  return { question, items, total, summary, problem, groups, exportAddress, more, all, refresh }
}
