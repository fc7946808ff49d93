<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import TopBar from '../../bar/TopBar.vue'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day, plural } from '../../shared/format'

/** A family in one year: its returns side by side, and what may be claimed on one or another. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const view = ref<Schemas['HouseholdView'] | null>(null)
const shown = ref<string | null>(null)
const taken = ref('')
const path = computed(() => ({ id: Number(route.params.id), year: Number(route.params.year) }))
const load = () =>
  act(async () => {
    view.value = await call(api.GET('/api/clients/{id}/household/{year}', { params: { path: path.value } }))
    document.title = `${view.value.title} ${view.value.year} - Aerarium`
  })
watch(
  path,
  () => {
    taken.value = ''
    void load()
  },
  { immediate: true },
)

const filing = computed(() => view.value?.members.filter((m) => m.returnId) ?? [])
const saving = computed(() => view.value?.claims.filter((c) => c.best && !c.closed && !c.saves.startsWith('-')) ?? [])
const claim = computed(
  () => view.value?.claims.find((c) => c.key === shown.value) ?? saving.value[0] ?? view.value?.claims[0] ?? null,
)
const balance = computed(() => view.value?.figures.at(-1)?.total ?? '0')
const refund = computed(() => balance.value.startsWith('-'))
const strip = computed(() => view.value?.figures.slice(0, -1) ?? [])
const bracketed = (value: string) => (value.startsWith('-') ? `(${amount(value.slice(1))})` : amount(value))
const lineOf = (member: Schemas['HouseholdMemberView'], figure: Schemas['HouseholdFigureView']) =>
  `/returns/${member.returnId}/fill/${figure.form}?line=${figure.line}`
const take = (claims: string[]) =>
  act(async () => {
    const done = await call(
      api.POST('/api/clients/{id}/household/{year}/claims', {
        params: { path: path.value },
        body: { claims, stamp: view.value!.stamp },
      }),
    )
    view.value = done.household
    taken.value = `Written into ${plural(Number(done.returns), 'return')}; each line says so and can be undone in its return.`
  })
const openYear = (event: Event) =>
  void router.push(`/households/${path.value.id}/${(event.target as HTMLSelectElement).value}`)
</script>

<template>
  <div class="place household">
    <TopBar>
      <nav v-if="view" class="crumbs" aria-label="Where you are">
        <router-link :to="`/clients/${path.id}`">{{ view.title }}</router-link>
        <span class="faint" aria-hidden="true">/</span>
        <strong>{{ view.return }} {{ view.year }}</strong>
      </nav>
    </TopBar>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div v-if="view" class="body">
      <main class="page">
        <div class="rule-head title">
          <h1>{{ view.title }}</h1>
          <span class="small">
            <label class="year"
              >Year
              <select :value="view.year" @change="openYear">
                <option v-for="year in [...new Set([view.year, ...view.years])]" :key="year">{{ year }}</option>
              </select>
            </label>
            <span v-if="view.due" class="secondary"> due {{ day(view.due) }}</span>
          </span>
        </div>
        <p v-if="view.outOfReach" class="small secondary">
          {{ plural(view.outOfReach, 'member') }} of the household {{ view.outOfReach === 1 ? 'is' : 'are' }} not
          assigned to you and not shown; what is best for the household may be another.
        </p>
        <p v-if="!filing.length" class="secondary">
          No return of {{ view.year }} is open for anybody of the household.
        </p>
        <table v-else class="plain side" aria-label="Returns side by side">
          <thead>
            <tr>
              <th></th>
              <th v-for="member in view.members" :key="member.name" class="amount">
                <router-link v-if="member.clientId" :to="`/clients/${member.clientId}`">{{
                  member.name.split(' ')[0]
                }}</router-link>
                <template v-else>{{ member.name.split(' ')[0] }}</template>
                <span v-if="member.about" class="small about">{{ member.about }}</span>
              </th>
              <th class="amount">Household</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Return</td>
              <td v-for="member in view.members" :key="member.name" class="amount">
                <router-link v-if="member.returnId" :to="`/returns/${member.returnId}/fill`">{{
                  member.stage
                }}</router-link>
                <span v-else class="secondary">{{ member.stage }}</span>
              </td>
              <td></td>
            </tr>
            <tr
              v-for="(figure, at) in view.figures"
              :key="figure.line"
              :class="{ balance: at === view.figures.length - 1 }"
            >
              <td>{{ figure.label }}</td>
              <td v-for="member in view.members" :key="member.name" class="amount">
                <router-link v-if="member.returnId" :to="lineOf(member, figure)" class="plain-figure">{{
                  bracketed(member.figures[at] ?? '0')
                }}</router-link>
                <span v-else class="faint">–</span>
              </td>
              <td class="amount">{{ bracketed(figure.total) }}</td>
            </tr>
          </tbody>
        </table>

        <section v-if="view.claims.length" aria-label="Shared claims">
          <div class="rule-head">
            <h2>Shared claims</h2>
            <span class="small secondary">computed over all lawful allocations</span>
          </div>
          <table class="plain claims">
            <thead>
              <tr>
                <th>Claim</th>
                <th class="amount">Amount</th>
                <th>Now</th>
                <th>Best</th>
                <th class="amount">Saves</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="item in view.claims" :key="item.key" :class="{ shown: claim?.key === item.key }">
                <td>
                  <button class="link ink" :aria-pressed="claim?.key === item.key" @click="shown = item.key">
                    {{ item.title }}
                  </button>
                  <span v-if="item.needs && item.best" class="small secondary needs">{{ item.needs }}</span>
                </td>
                <td class="amount">{{ item.amount ? amount(item.amount) : '–' }}</td>
                <td>{{ item.now }}</td>
                <td>
                  <strong v-if="item.best">{{ item.best }}</strong><template v-else>as now</template>
                </td>
                <td class="amount">{{ item.best && item.saves !== '0' ? bracketed(item.saves) : '–' }}</td>
                <td>
                  <span v-if="item.closed" class="small secondary">{{ item.closed }}</span>
                  <button
                    v-else-if="item.best && session.mayPrepare"
                    class="link"
                    :disabled="busy"
                    :aria-label="`Take ${item.title}`"
                    @click="take([item.key])"
                  >
                    Take
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="saving.length > 1 && session.mayPrepare">
            <button class="link" :disabled="busy" @click="take(saving.map((c) => c.key))">
              Take {{ saving.length === 2 ? 'both' : `all ${saving.length}` }}, saving {{ amount(view.saves) }}
            </button>
            <span class="small secondary"> writes into the returns concerned; each line says so and can be undone</span>
          </p>
          <p v-if="taken" class="small secondary" role="status">{{ taken }}</p>
        </section>
      </main>
      <aside v-if="claim" class="margin" aria-label="The claim, way by way">
        <h2>{{ claim.title }}</h2>
        <p v-if="claim.closed" class="small secondary">{{ claim.closed }}</p>
        <template v-if="claim.options.length">
          <p class="small secondary">Each way taken alone, and the balance it gives everybody:</p>
          <table class="plain ways">
            <tbody v-for="option in claim.options" :key="option.label">
              <tr>
                <td>
                  <strong v-if="option.label === claim.best">{{ option.label }}</strong><template v-else>{{
                    option.label
                  }}</template>
                </td>
                <td class="amount">
                  {{
                    option.saves === '0'
                      ? 'the same'
                      : option.saves.startsWith('-')
                        ? `costs ${amount(option.saves.slice(1))}`
                        : `saves ${amount(option.saves)}`
                  }}
                </td>
              </tr>
              <tr class="small secondary">
                <td colspan="2">
                  <template v-for="(one, at) in option.balances" :key="at"
                    >{{ at ? ', ' : '' }}{{ filing[at]?.name.split(' ')[0] }} {{ bracketed(one) }}</template
                  >
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="claim.needs" class="small secondary">{{ claim.needs }}</p>
        </template>
      </aside>
    </div>
    <footer v-if="view && filing.length" class="strip" aria-label="Outcome of the household">
      <span v-for="figure in strip" :key="figure.line" class="figure">
        <span class="small secondary">{{ figure.label }}</span>
        <span class="sum">{{ bracketed(figure.total) }}</span>
      </span>
      <span class="grow"></span>
      <span class="figure total">
        <span class="small secondary">{{ refund ? 'Refund' : 'To pay' }} of the household, {{ view.currency }}</span>
        <span class="sum">{{ amount(balance.replace('-', '')) }}</span>
      </span>
    </footer>
  </div>
</template>

<style scoped>
.household {
  grid-template-rows: 48px auto minmax(0, 1fr) auto;
}
.household > .banner {
  grid-row: 2;
}
.household > .body {
  grid-row: 3;
}
.household > .strip {
  grid-row: 4;
}
.crumbs a {
  color: var(--ink);
  font-weight: 400;
}
.crumbs .faint {
  margin: 0 6px;
}
.body {
  display: flex;
  min-height: 0;
}
.page {
  flex: 1;
  min-width: 0;
  overflow: auto;
  padding: 18px 26px 30px;
  background: var(--page);
}
.margin {
  width: 290px;
  flex: none;
  overflow: auto;
  padding: 14px 18px;
  border-left: 1px solid var(--hairline);
}
.title {
  border-bottom: 0;
}
.year select {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: inherit;
  font: inherit;
}
.side {
  width: 100%;
  margin-bottom: 26px;
}
.side th .about {
  margin-left: 5px;
  color: var(--secondary);
  font-weight: 400;
}
.plain-figure {
  color: var(--ink);
  font-weight: 400;
}
.balance td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
}
.balance .plain-figure {
  font-weight: 600;
}
.claims {
  width: 100%;
}
.claims .needs {
  display: block;
}
.ink {
  color: var(--ink);
  font-weight: 400;
}
.shown .ink {
  font-weight: 600;
}
.ways {
  width: 100%;
}
.ways tbody tr:first-child td {
  border-bottom: 0;
}
.strip {
  display: flex;
  align-items: center;
  gap: 26px;
  min-height: 58px;
  padding: 6px 18px;
  border-top: 1px solid var(--hairline);
  background: var(--paper);
}
.figure {
  display: grid;
}
.figure .sum {
  font-size: 15.5px;
}
.grow {
  flex: 1;
}
.total {
  text-align: right;
}
.total .sum {
  font-size: 20px;
  font-weight: 600;
  color: var(--bronze);
}
</style>
