<script setup lang="ts">
import { onMounted, reactive, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, capital, day, daysLeft, plural } from '../../shared/format'
import TopBar from '../../bar/TopBar.vue'
import ClientImport from './ClientImport.vue'
import KeptPanel from './KeptPanel.vue'
import ManyReturns from './ManyReturns.vue'

const PAGE = 100
const session = useSession()
type Question = Required<Schemas['ClientQuestion']>
const anything = (): Question => ({
  search: null,
  country: null,
  kind: null,
  holderId: null,
  order: 'name',
  descending: null,
})
const question = reactive(anything())
const typed = ref('')
const clients = ref<Schemas['ClientListItem'][]>([])
const total = ref(0)
const countries = ref<Schemas['CountryView'][]>([])
const people = ref<Schemas['DeskHolder'][]>([])
const lists = ref<Schemas['KeptClientList'][]>([])
const keeping = ref<string | null>(null)
const importing = ref(false)
const kept = ref(false)
const { problem, act } = useAct()
let latest = 0

const columns = [
  { order: 'name', label: 'Name' },
  { order: null, label: 'Identifier' },
  { order: 'country', label: 'Country' },
  { order: null, label: 'Kind' },
  { order: 'holder', label: 'Assigned to' },
  { order: 'due', label: 'Next deadline' },
  { order: 'open', label: 'Open' },
  { order: 'unpaid', label: 'Left to pay' },
] as const

/** What a question sends: only what was asked. */
const asked = () => ({
  ...(question.search && { Search: question.search }),
  ...(question.country && { Country: question.country }),
  ...(question.kind && { Kind: question.kind }),
  ...(question.holderId && { HolderId: question.holderId }),
  ...(question.order && { Order: question.order }),
  ...(question.descending && { Descending: true }),
})
const load = (offset: number) =>
  act(async () => {
    const turn = ++latest
    const page = await call(api.GET('/api/clients', { params: { query: { ...asked(), offset, limit: PAGE } } }))
    if (turn !== latest) return
    clients.value = offset ? [...clients.value, ...page.items] : page.items
    total.value = page.total
  })
let timer: number | undefined
watch(typed, (text) => {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => (question.search = text || null), 60)
})
watch(question, () => void load(0))
onMounted(async () => {
  await load(0)
  await act(async () => {
    const [found, summary, own] = await Promise.all([
      call(api.GET('/api/countries')),
      call(api.GET('/api/desk/summary')),
      call(api.GET('/api/clients/lists')),
    ])
    countries.value = found
    people.value = summary.holders
    lists.value = own
  })
})
function onScroll(event: Event) {
  const box = event.target as HTMLElement
  if (box.scrollTop + box.clientHeight > box.scrollHeight - 400 && clients.value.length < total.value)
    void load(clients.value.length)
}
function orderBy(order: string | null) {
  if (!order) return
  question.descending = question.order === order && !question.descending ? true : null
  question.order = order
}
const arrow = (order: string | null) => (order === question.order ? (question.descending ? ' ↓' : ' ↑') : '')
function show(list: Schemas['KeptClientList']) {
  Object.assign(question, anything(), list.question)
  typed.value = list.question.search ?? ''
}
const readLists = async () => (lists.value = await call(api.GET('/api/clients/lists')))
const keep = () =>
  act(async () => {
    await call(
      api.PUT('/api/clients/lists/{name}', { params: { path: { name: keeping.value! } }, body: { ...question } }),
    )
    keeping.value = null
    await readLists()
  })
const forget = (name: string) =>
  act(async () => {
    await call(api.DELETE('/api/clients/lists/{name}', { params: { path: { name } } }))
    await readLists()
  })
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll list" @scroll.passive="onScroll">
      <div class="head">
        <h1>Clients</h1>
        <template v-if="session.mayPrepare">
          <button class="link" :aria-expanded="importing" @click="importing = !importing">Import</button>
          <button class="link" :aria-expanded="kept" @click="kept = !kept">Kept by the client</button>
          <router-link to="/clients/new">Add client</router-link>
        </template>
      </div>
      <template v-if="importing">
        <ClientImport @stored="load(0)" />
        <ManyReturns @stored="load(0)" />
      </template>
      <KeptPanel v-if="kept" />
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <div class="filters small">
        <span class="secondary">{{ plural(total, 'client') }}</span>
        <input v-model="typed" type="search" placeholder="Filter" aria-label="Filter the clients" />
        <select v-model="question.country" aria-label="Country">
          <option :value="null">All countries</option>
          <option v-for="country in countries" :key="country.code" :value="country.code">{{ country.name }}</option>
        </select>
        <select v-model="question.kind" aria-label="Kind of client">
          <option :value="null">Individuals and companies</option>
          <option value="individual">Individuals</option>
          <option value="company">Companies</option>
        </select>
        <select v-model="question.holderId" aria-label="Assigned to">
          <option :value="null">Assigned to anybody</option>
          <option v-for="person in people" :key="person.id" :value="person.id">{{ person.name }}</option>
        </select>
        <span class="kept-lists">
          <span v-for="list in lists" :key="list.name">
            <button class="link" @click="show(list)">{{ list.name }}</button>
            <button class="link drop" :aria-label="`Delete the list ${list.name}`" @click="forget(list.name)">×</button>
          </span>
          <form v-if="keeping !== null" @submit.prevent="keep">
            <input v-model="keeping" aria-label="Name of the list" placeholder="Name of the list" />
            <button class="link" type="submit" :disabled="!keeping.trim()">Keep</button>
          </form>
          <button v-else class="link" @click="keeping = ''">Keep this list</button>
        </span>
      </div>
      <table class="plain">
        <thead>
          <tr>
            <th
              v-for="column in columns"
              :key="column.label"
              :class="{ amount: column.label === 'Open' || column.label === 'Left to pay' }"
              :aria-sort="
                column.order === question.order ? (question.descending ? 'descending' : 'ascending') : undefined
              "
            >
              <button v-if="column.order" class="sort" @click="orderBy(column.order)">
                {{ column.label }}{{ arrow(column.order) }}
              </button>
              <template v-else>{{ column.label }}</template>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="client in clients" :key="client.id">
            <td>
              <router-link :to="`/clients/${client.id}`">{{ client.name }}</router-link>
              <span class="small faint more">{{ [client.code, client.clientGroup].filter(Boolean).join(', ') }}</span>
            </td>
            <td>{{ client.identifier }}</td>
            <td>{{ client.country }}</td>
            <td class="secondary">{{ capital(client.kind) }}</td>
            <td class="secondary">{{ client.assignedTo.join(', ') }}</td>
            <td>
              <template v-if="client.nextDue"
                >{{ day(client.nextDue) }}
                <span class="small" :class="(client.daysLeft ?? 0) < 0 ? 'late' : 'secondary'">{{
                  daysLeft(client.daysLeft ?? 0)
                }}</span></template
              >
            </td>
            <td class="amount">{{ client.open || '' }}</td>
            <td class="amount">
              {{ client.leftToPay === '0' ? '' : `${amount(client.leftToPay)} ${client.currency}` }}
            </td>
          </tr>
        </tbody>
      </table>
    </main>
  </div>
</template>

<style scoped>
.list {
  padding: 18px 30px;
  background: var(--page);
}
.head {
  display: flex;
  gap: 24px;
  align-items: baseline;
  padding-bottom: 8px;
}
.head h1 {
  flex: 1;
}
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: baseline;
  padding-bottom: 10px;
}
.filters input,
.filters select {
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: var(--page);
  color: var(--ink);
  font: inherit;
}
.kept-lists {
  margin-left: auto;
  display: inline-flex;
  gap: 14px;
}
.kept-lists form {
  display: inline-flex;
  gap: 8px;
}
.drop {
  margin-left: 3px;
}
.sort {
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  cursor: pointer;
  padding: 0;
}
.more {
  margin-left: 8px;
}
.late {
  color: var(--brick);
  margin-left: 4px;
}
td .secondary {
  margin-left: 4px;
}
td,
th {
  white-space: nowrap;
}
</style>
