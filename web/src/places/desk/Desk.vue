<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import CountBadges from '../../shared/CountBadges.vue'
import { amount, daysLeft } from '../../shared/format'
import TopBar from '../../shared/TopBar.vue'
import SeasonChart from './SeasonChart.vue'

type Item = Schemas['DeskItem']

const router = useRouter()
const session = useSession()
const items = ref<Item[]>([])
const problem = ref('')
const filter = ref('open')
const typed = ref('')
const at = ref(0)

const isDone = (item: Item) => item.stage === 'accepted'
const filters: Record<string, { label: string; takes: (item: Item) => boolean }> = {
  open: { label: 'Open', takes: (item) => !isDone(item) },
  waiting: { label: 'Waiting for approval', takes: (item) => item.stage === 'waiting' },
  sent: { label: 'Sent, unanswered', takes: (item) => item.stage === 'sent' },
  rejected: { label: 'Rejected', takes: (item) => item.stage === 'rejected' },
  overdue: { label: 'Overdue', takes: (item) => !isDone(item) && item.daysLeft < 0 },
  all: { label: 'All', takes: () => true },
}
const shown = computed(() =>
  items.value
    .filter(filters[filter.value]!.takes)
    .filter((item) =>
      `${item.client} ${item.group ?? ''} ${item.title} ${item.year}`.toLowerCase().includes(typed.value.toLowerCase()),
    ),
)
const groups = computed(() => {
  const byGroup = new Map<string, Item[]>()
  for (const item of shown.value) byGroup.set(item.group ?? '', [...(byGroup.get(item.group ?? '') ?? []), item])
  return [...byGroup]
})
const order = computed(() => groups.value.flatMap(([, list]) => list))
const accepted = computed(() => items.value.filter(isDone).length)
const overdue = computed(() => items.value.filter(filters.overdue!.takes).length)
const soon = computed(
  () => items.value.filter((item) => !isDone(item) && item.daysLeft >= 0 && item.daysLeft <= 14).length,
)

function tone(item: Item, step: number): string {
  if (step > item.step) return ''
  if (item.stage === 'rejected' && step === item.step) return 'bad'
  if ((item.stage === 'waiting' || item.stage === 'sent') && step === item.step) return 'seal'
  return 'done'
}
function due(item: Item): string {
  if (item.stage === 'accepted' || item.stage === 'sent') return 'sent'
  return daysLeft(item.daysLeft)
}
const open = (item: Item) => router.push(`/returns/${item.id}/${item.place}`)

function onKey(event: KeyboardEvent) {
  if (
    (event.target as HTMLElement).closest('input, textarea, select') ||
    event.ctrlKey ||
    event.altKey ||
    event.metaKey
  )
    return
  if (event.key === 'j' || event.key === 'ArrowDown')
    at.value = Math.max(0, Math.min(at.value + 1, order.value.length - 1))
  else if (event.key === 'k' || event.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0)
  else if (event.key === 'Enter' && order.value[at.value] && !(event.target as HTMLElement).closest('a, button'))
    void open(order.value[at.value]!)
  else if (event.key === '/') document.querySelector<HTMLInputElement>('#desk-filter')?.focus()
  else return
  event.preventDefault()
}
async function load() {
  try {
    items.value = await call(api.GET('/api/desk'))
    problem.value = ''
  } catch (error) {
    problem.value = (error as Error).message
  }
}

/** What others do shows when one comes back to the Desk, and every little while. */
const EVERY_MS = 15_000
let timer: number | undefined
onMounted(() => {
  window.addEventListener('keydown', onKey)
  window.addEventListener('focus', load)
  timer = window.setInterval(load, EVERY_MS)
  void load()
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey)
  window.removeEventListener('focus', load)
  window.clearInterval(timer)
})
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="desk">
      <div class="head">
        <div>
          <h1>Desk</h1>
          <p>
            <strong>{{ items.length }}</strong> returns, <strong>{{ accepted }}</strong> accepted
          </p>
          <p v-if="overdue" class="late">
            <strong>{{ overdue }}</strong> overdue, penalty running
          </p>
          <p>
            <strong>{{ soon }}</strong> due within two weeks
          </p>
        </div>
        <SeasonChart :items="items" />
      </div>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <div class="filters">
        <button
          v-for="(item, key) in filters"
          :key="key"
          :class="{ at: filter === key }"
          :aria-pressed="filter === key"
          @click="((filter = String(key)), (at = 0))"
        >
          {{ item.label }}
        </button>
        <span class="grow"></span>
        <input id="desk-filter" v-model="typed" type="search" placeholder="Filter" aria-label="Filter the Desk" />
        <span class="secondary">{{ shown.length }} of {{ items.length }} <kbd>/</kbd></span>
        <router-link v-if="session.mayPrepare" to="/clients/new">Add client</router-link>
      </div>
      <div class="scroll">
        <table class="plain">
          <thead>
            <tr>
              <th>Client</th>
              <th>Return</th>
              <th>Year</th>
              <th>Stage</th>
              <th class="amount">Due in</th>
              <th>Findings</th>
              <th class="amount">Balance</th>
              <th>Holder</th>
              <th>Next act</th>
            </tr>
          </thead>
          <tbody v-for="[group, list] in groups" :key="group">
            <tr class="group">
              <td colspan="9">
                <h3>{{ group || 'No group' }}</h3>
                <span class="small secondary">{{ list.length }} {{ list.length === 1 ? 'return' : 'returns' }}</span>
              </td>
            </tr>
            <tr
              v-for="item in list"
              :key="item.id"
              class="item"
              :class="{ at: order[at] === item }"
              @click="((at = order.indexOf(item)), void open(item))"
            >
              <td>
                <router-link :to="`/returns/${item.id}/${item.place}`" class="client" @click.stop>{{
                  item.client
                }}</router-link>
              </td>
              <td>
                {{ item.title }}<template v-if="item.kind !== 'original'">, {{ item.kind }}</template>
              </td>
              <td>{{ item.year }}</td>
              <td>
                <span class="steps" aria-hidden="true"
                  ><i v-for="step in 5" :key="step" :class="tone(item, step)"></i
                ></span>
                {{ item.stageLabel }}
              </td>
              <td class="amount" :class="{ late: due(item).endsWith('late') }">{{ due(item) }}</td>
              <td>
                <CountBadges
                  :errors="item.stage === 'accepted' ? 0 : item.errors"
                  :warnings="item.stage === 'accepted' ? 0 : item.warnings"
                />
              </td>
              <td class="amount">{{ amount(item.balance) }}</td>
              <td class="secondary">{{ item.holder }}</td>
              <td class="next" :class="{ done: item.stage === 'accepted' }">{{ item.nextAct }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <footer class="keys secondary">
        <kbd>j</kbd> <kbd>k</kbd> move <kbd>Enter</kbd> open <kbd>/</kbd> filter <kbd>?</kbd> keyboard
      </footer>
    </main>
  </div>
</template>

<style scoped>
.desk {
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  min-height: 0;
}
.desk > .banner {
  margin: 8px 18px;
}
.head {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  padding: 14px 18px 10px;
  border-bottom: 1px solid var(--hairline);
}
.head p {
  margin: 2px 0 0;
}
.late {
  color: var(--brick);
  font-weight: 600;
}
.filters {
  display: flex;
  align-items: stretch;
  gap: 20px;
  height: 44px;
  padding: 0 18px;
  border-bottom: 1px solid var(--ink);
}
.filters > * {
  align-self: center;
}
.filters button {
  align-self: stretch;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  font: inherit;
  color: var(--secondary);
  cursor: pointer;
}
.filters button.at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.grow {
  flex: 1;
}
.filters input {
  width: 140px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.scroll {
  background: var(--page);
}
thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  z-index: 1;
}
th:first-child,
td:first-child {
  padding-left: 18px;
}
.group td {
  background: var(--paper);
}
.group h3 {
  display: inline;
  margin-right: 8px;
}
.item {
  cursor: pointer;
}
.item:hover {
  background: color-mix(in srgb, var(--verdigris-wash) 50%, transparent);
}
.item.at {
  background: var(--verdigris-wash);
  box-shadow: inset 3px 0 var(--verdigris);
}
.client {
  color: var(--ink);
  font-weight: 400;
}
.steps {
  display: inline-flex;
  gap: 3px;
  margin-right: 6px;
}
.steps i {
  width: 12px;
  height: 5px;
  background: var(--hairline);
}
.steps .done {
  background: var(--verdigris);
}
.steps .seal {
  background: var(--bronze);
}
.steps .bad {
  background: var(--brick);
}
.next {
  color: var(--verdigris);
  font-weight: 600;
}
.next.done {
  color: var(--secondary);
  font-weight: 400;
}
.keys {
  padding: 8px 18px;
  border-top: 1px solid var(--hairline);
  font-size: 13px;
}
</style>
