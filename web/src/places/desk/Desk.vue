<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import CountBadges from '../../shared/CountBadges.vue'
import { amount, day, periodOf, plural } from '../../shared/format'
import RefusedNotice from '../../shared/RefusedNotice.vue'
import TopBar from '../../bar/TopBar.vue'
import BatchBar from './BatchBar.vue'
import { anything, due, lists, orders, tone, useDeskList, type Item, type Question } from './deskList'
import PaymentTools from './PaymentTools.vue'
import ReminderStrip from './ReminderStrip.vue'
import SeasonChart from './SeasonChart.vue'

const MOST_PRINTED = 2_000
const router = useRouter()
const session = useSession()
const { question, total, summary, problem, groups, exportAddress, more, all, refresh } = useDeskList()
const typed = ref('')
const at = ref(0)
const chosen = reactive(new Set<number>())
const keeping = ref('')
const { problem: refused, act } = useAct()

const grouped = computed(() => question.order === 'group' || question.order === 'due')
const order = computed(() => groups.value.flatMap(([, list]) => list))
const cut = computed(() => Boolean(question.holderId || question.tag || question.year || question.search))
const years = computed(() => {
  const now = Number(session.view?.today.slice(0, 4))
  return Array.from({ length: 6 }, (_, back) => now - back)
})
let timer: number | undefined
watch(typed, (text) => {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => (question.search = text.trim() || null), 60)
})
watch(question, () => {
  at.value = 0
  chosen.clear()
})

function show(kept: Question) {
  Object.assign(question, anything(), kept)
  typed.value = kept.search ?? ''
}
const keep = () =>
  act(async () => {
    await call(api.PUT('/api/desk/lists/{name}', { params: { path: { name: keeping.value } }, body: question }))
    keeping.value = ''
    await refresh()
  })
const forget = (name: string) =>
  act(async () => {
    await call(api.DELETE('/api/desk/lists/{name}', { params: { path: { name } } }))
    await refresh()
  })
async function print() {
  await all(MOST_PRINTED)
  await nextTick()
  window.print()
}

const open = (item: Item) => router.push(`/returns/${item.id}/${item.place}`)
const toggle = (item: Item) => void (chosen.delete(item.id) || chosen.add(item.id))
function toggleAll() {
  const every = order.value.every((item) => chosen.has(item.id))
  for (const item of order.value)
    if (every) chosen.delete(item.id)
    else chosen.add(item.id)
}
function move(to: number) {
  at.value = Math.max(0, Math.min(to, order.value.length - 1))
  void nextTick(() => document.querySelector('.item.at')?.scrollIntoView({ block: 'nearest' }))
}

function onKey(event: KeyboardEvent) {
  if (
    (event.target as HTMLElement).closest('input:not([type="checkbox"]), textarea, select') ||
    event.ctrlKey ||
    event.altKey ||
    event.metaKey
  )
    return
  const item = order.value[at.value]
  if (event.key === 'j' || event.key === 'ArrowDown') move(at.value + 1)
  else if (event.key === 'k' || event.key === 'ArrowUp') move(at.value - 1)
  else if (event.key === 'Enter' && item && !(event.target as HTMLElement).closest('a, button')) void open(item)
  else if (event.key === 'x' && item && session.mayPrepare) toggle(item)
  else if (event.key === '/') document.querySelector<HTMLInputElement>('#desk-filter')?.focus()
  else return
  event.preventDefault()
}
const box = ref<HTMLElement | null>(null)
/** Reads on when the end of the list is near. */
function readOn(near = 800) {
  const list = box.value
  if (list && list.scrollTop + list.clientHeight >= list.scrollHeight - near) void more()
}
/** A window taller than what was read has nothing to scroll. */
const fillWindow = () => readOn(0)
watch(order, () => void nextTick(fillWindow))

/** How many years of clients would likely give a refund if they were filed. */
const likely = ref(0)
onMounted(async () => {
  likely.value = await call(api.GET('/api/desk/likely-refunds')).then(
    (refunds) => refunds.length,
    () => 0,
  )
})

/** What others do shows when one comes back to the Desk, and every little while. */
const EVERY_MS = 15_000
let watching: number | undefined
onMounted(() => {
  window.addEventListener('keydown', onKey)
  window.addEventListener('focus', refresh)
  window.addEventListener('resize', fillWindow)
  watching = window.setInterval(refresh, EVERY_MS)
  void refresh()
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey)
  window.removeEventListener('focus', refresh)
  window.removeEventListener('resize', fillWindow)
  window.clearInterval(watching)
})
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="desk">
      <RefusedNotice />
      <div class="head">
        <div>
          <h1>Desk</h1>
          <template v-if="summary">
            <p>
              <strong>{{ summary.counts.all }}</strong> returns, <strong>{{ summary.counts.accepted }}</strong> accepted
            </p>
            <p v-if="summary.counts.overdue" class="late">
              <strong>{{ summary.counts.overdue }}</strong> overdue, penalty running
            </p>
            <p>
              <strong>{{ summary.counts.soon }}</strong> due within two weeks
            </p>
            <p><router-link to="/desk/season">Season in charts</router-link></p>
          </template>
        </div>
        <SeasonChart v-if="summary" :weeks="summary.weeks" />
      </div>
      <ReminderStrip />
      <p v-if="problem || refused" class="banner bad" role="alert">{{ problem || refused }}</p>
      <div class="filters" role="group" aria-label="Lists">
        <button
          v-for="list in lists"
          :key="list.name"
          :class="{ at: question.list === list.name }"
          :aria-pressed="question.list === list.name"
          @click="question.list = list.name"
        >
          {{ list.label }} <span class="small">{{ summary?.counts[list.count] || '' }}</span>
        </button>
        <span class="grow"></span>
        <router-link v-if="session.mayPrepare" to="/clients/new">Add client</router-link>
      </div>
      <div class="cuts small">
        <input id="desk-filter" v-model="typed" type="search" placeholder="Filter" aria-label="Filter the Desk" />
        <kbd>/</kbd>
        <select v-model="question.order" aria-label="Order">
          <option v-for="item in orders" :key="item.value" :value="item.value">{{ item.title }}</option>
        </select>
        <select v-model="question.holderId" aria-label="Assigned to">
          <option :value="null">assigned to anyone</option>
          <option v-for="person in summary?.holders" :key="person.id" :value="person.id">{{ person.name }}</option>
        </select>
        <select v-model="question.year" aria-label="Year">
          <option :value="null">every year</option>
          <option v-for="year in years" :key="year" :value="year">{{ year }}</option>
        </select>
        <select v-if="summary?.tags.length" v-model="question.tag" aria-label="Tagged">
          <option :value="null">every tag</option>
          <option v-for="name in summary.tags" :key="name" :value="name">{{ name }}</option>
        </select>
        <button v-if="cut" class="link" @click="show({ ...anything(), list: question.list })">Clear filters</button>
        <span v-for="kept in summary?.keptLists" :key="kept.name" class="kept">
          <button class="link" @click="show(kept.question)">{{ kept.name }}</button>
          <button class="link drop" :aria-label="`Delete the list ${kept.name}`" @click="forget(kept.name)">
            &times;
          </button>
        </span>
        <form v-if="cut || question.order !== 'group'" @submit.prevent="keep">
          <input v-model="keeping" maxlength="40" placeholder="Save this list as ..." aria-label="Save this list as" />
          <button v-if="keeping.trim()" class="link">Keep</button>
        </form>
        <span class="grow"></span>
        <span class="secondary">{{ plural(total, 'return') }}</span>
        <router-link v-if="likely" to="/desk/likely-refunds">Likely refunds {{ likely }}</router-link>
        <a href="/api/deadlines.ics" download>Calendar</a>
        <a :href="exportAddress" download>Export CSV</a>
        <button class="link" @click="print">Print</button>
      </div>
      <div ref="box" class="scroll" @scroll.passive="readOn()">
        <table class="plain">
          <thead>
            <tr>
              <th v-if="session.mayPrepare" class="pick">
                <input type="checkbox" aria-label="Select every return shown" @change="toggleAll" />
              </th>
              <th>Client</th>
              <th>Return</th>
              <th>Year</th>
              <th>Stage</th>
              <th class="amount">Due in</th>
              <th>Findings</th>
              <th class="amount">Balance</th>
              <th>Assigned to</th>
              <th>Next step</th>
            </tr>
          </thead>
          <tbody v-for="[group, list] in groups" :key="group">
            <tr v-if="grouped" class="group">
              <td colspan="10">
                <h3>{{ question.order === 'due' ? day(group) : group || 'No group' }}</h3>
                <span v-if="group" class="small secondary">{{ plural(list.length, 'return') }}</span>
              </td>
            </tr>
            <tr
              v-for="item in list"
              :key="item.id"
              class="item"
              :class="{ at: order[at] === item }"
              @click="((at = order.indexOf(item)), void open(item))"
            >
              <td v-if="session.mayPrepare" class="pick" @click.stop>
                <input
                  type="checkbox"
                  :checked="chosen.has(item.id)"
                  :aria-label="`Select ${item.client} ${periodOf(item)}`"
                  @change="toggle(item)"
                />
              </td>
              <td>
                <a :href="`/returns/${item.id}/${item.place}`" class="client" @click.exact.prevent.stop="open(item)">{{
                  item.client
                }}</a>
                <span v-for="name in item.tags" :key="name" class="tag small">{{ name }}</span>
              </td>
              <td>
                {{ item.title }}<template v-if="item.kind !== 'original'">, {{ item.kind }}</template>
                <span v-if="item.beside" class="small secondary beside">{{ item.beside }}</span>
              </td>
              <td class="whole">{{ periodOf(item) }}</td>
              <td class="whole">
                <span class="steps" aria-hidden="true"
                  ><i v-for="step in 5" :key="step" :class="tone(item, step)"></i
                ></span>
                {{ item.stageLabel }}
              </td>
              <td class="amount" :class="{ late: due(item).endsWith('late') }">
                {{ due(item) }}
                <span v-if="item.charges !== '0' && due(item).endsWith('late')" class="small charges"
                  >charges {{ amount(item.charges) }}</span
                >
              </td>
              <td>
                <CountBadges
                  :errors="item.stage === 'accepted' ? 0 : item.errors"
                  :warnings="item.stage === 'accepted' ? 0 : item.warnings"
                />
              </td>
              <td class="amount">
                {{ amount(item.balance) }}
                <span v-if="item.unpaid !== '0'" class="small charges">unpaid {{ amount(item.unpaid) }}</span>
              </td>
              <td class="secondary whole">{{ item.holder }}</td>
              <td class="next" :class="{ done: item.stage === 'accepted' }">{{ item.nextAct }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="summary && !total && !problem" class="secondary nothing">No returns in this list.</p>
      </div>
      <div>
        <PaymentTools v-if="question.list === 'unpaid'" :chosen="[...chosen]" @changed="refresh" />
        <BatchBar
          v-if="session.mayPrepare"
          :chosen="[...chosen]"
          :total="total"
          :question="question"
          :holders="summary?.holders ?? []"
          @clear="chosen.clear()"
          @changed="refresh"
        />
        <footer class="keys secondary">
          <kbd>j</kbd> <kbd>k</kbd> move <kbd>Enter</kbd> open <kbd>x</kbd> select <kbd>/</kbd> filter
          <kbd>?</kbd> keyboard
        </footer>
      </div>
    </main>
  </div>
</template>

<style scoped>
.desk {
  display: flex;
  flex-direction: column;
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
  gap: 18px;
  height: 40px;
  padding: 0 18px;
}
.filters > * {
  align-self: center;
}
.cuts {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 34px;
  padding: 0 18px;
  border-top: 1px solid var(--hairline);
  border-bottom: 1px solid var(--ink);
}
.cuts > kbd {
  margin-left: -10px;
}
.cuts select {
  border: 0;
  background: none;
  color: var(--ink);
  font: inherit;
}
.cuts form {
  display: flex;
  gap: 8px;
}
.kept {
  border: 1px solid var(--hairline);
  border-radius: 3px;
  padding: 1px 6px;
  white-space: nowrap;
}
.drop {
  margin-left: 4px;
}
.tag {
  margin-left: 8px;
  padding: 0 5px;
  border-radius: 3px;
  background: var(--slate-wash);
  color: var(--slate);
}
.nothing {
  padding: 12px 18px;
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
.cuts input {
  width: 150px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.scroll {
  flex: 1;
  min-height: 0;
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
  padding-left: 18px !important;
}
.whole {
  white-space: nowrap;
}
.pick {
  width: 40px;
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
.charges,
.beside {
  display: block;
  margin-top: -3px;
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
  width: 8px;
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
@media print {
  .desk {
    display: block;
  }
  .scroll {
    overflow: visible;
    contain: none;
  }
  .filters,
  .cuts,
  .keys,
  .pick,
  .batch,
  .next {
    display: none;
  }
}
</style>
