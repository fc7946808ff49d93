<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import TopBar from '../../bar/TopBar.vue'
import { useAct } from '../../shared/act'
import { amount, day, plural } from '../../shared/format'
import ClaimMargin from './ClaimMargin.vue'
import NextIncome from './NextIncome.vue'
import SendTogether from './SendTogether.vue'
import SharedClaims from './SharedClaims.vue'
import SideBySide from './SideBySide.vue'
import SinceLastYear from './SinceLastYear.vue'

/** A family in one year: its returns side by side, what may be claimed on one or another, what the next income costs, last year beside it, and sending. */
const route = useRoute()
const router = useRouter()
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

const tabs = computed<[string, string, string][]>(() => [
  ['', 'Side by side', saving.value.length ? `${saving.value.length} would save` : ''],
  ['income', 'Next income', ''],
  ['last-year', 'Last year', ''],
  ['send', 'Send together', ''],
])
const tab = computed(() => String(route.query.view ?? ''))
const filing = computed(() => view.value?.members.filter((m) => m.returnId) ?? [])
const saving = computed(() => view.value?.claims.filter((c) => c.best && !c.closed && Number(c.saves) > 0) ?? [])
const claim = computed(
  () => view.value?.claims.find((c) => c.key === shown.value) ?? saving.value[0] ?? view.value?.claims[0] ?? null,
)
const balance = computed(() => view.value?.figures.at(-1)?.total ?? '0')
const refund = computed(() => balance.value.startsWith('-'))
const strip = computed(() => view.value?.figures.slice(0, -1) ?? [])
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
  void router.push({
    path: `/households/${path.value.id}/${(event.target as HTMLSelectElement).value}`,
    query: route.query,
  })
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
        <p v-if="view.events.length" class="small secondary events">{{ view.events.join(' · ') }}</p>
        <p v-if="view.outOfReach" class="small secondary">
          {{ plural(view.outOfReach, 'member') }} of the household {{ view.outOfReach === 1 ? 'is' : 'are' }} not
          assigned to you and not shown; what is best for the household may be another.
        </p>
        <p v-if="!filing.length" class="secondary">
          No return of {{ view.year }} is open for anybody of the household.
        </p>
        <template v-else>
          <nav class="tabs" aria-label="About this household">
            <router-link
              v-for="[key, label, note] in tabs"
              :key="key"
              :to="{ query: key ? { view: key } : {} }"
              :class="{ at: tab === key }"
              :aria-current="tab === key ? 'page' : undefined"
              >{{ label }}<span v-if="note" class="small secondary note">{{ note }}</span></router-link
            >
          </nav>
          <template v-if="!tab">
            <SideBySide :view="view" />
            <SharedClaims
              v-if="view.claims.length"
              :view="view"
              :shown="claim?.key ?? null"
              :saving="saving"
              :busy="busy"
              :taken="taken"
              @show="shown = $event"
              @take="take"
            />
          </template>
          <NextIncome v-else-if="tab === 'income'" :view="view" />
          <SinceLastYear
            v-else-if="tab === 'last-year'"
            :id="path.id"
            :year="path.year"
            :members="filing.map((m) => m.name)"
          />
          <SendTogether v-else :members="filing" @changed="load" />
        </template>
      </main>
      <ClaimMargin v-if="claim && !tab" :claim="claim" :filing="filing" />
    </div>
    <footer v-if="view && filing.length" class="strip" aria-label="Outcome of the household">
      <span v-for="figure in strip" :key="figure.line" class="figure">
        <span class="small secondary">{{ figure.label }}</span>
        <span class="sum">{{ amount(figure.total) }}</span>
      </span>
      <span class="grow"></span>
      <span class="figure total">
        <span class="small secondary"
          >{{ refund ? 'Refund of the household' : 'Household to pay' }}, {{ view.currency }}</span
        >
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
.title {
  border-bottom: 0;
}
.events {
  margin: 0;
}
.tabs {
  display: flex;
  gap: 22px;
  margin: 6px 0 14px;
  border-bottom: 1px solid var(--hairline);
}
.tabs a {
  padding: 6px 0;
  color: var(--secondary);
  font-weight: 400;
  border-bottom: 2px solid transparent;
}
.tabs .at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.tabs .note {
  margin-left: 6px;
  font-weight: 400;
}
.year select {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: inherit;
  font: inherit;
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
