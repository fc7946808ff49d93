<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import TopBar from '../../bar/TopBar.vue'
import { useAct } from '../../shared/act'
import { capital, day } from '../../shared/format'
import { useSession } from '../../session'
import LawExchange from './LawExchange.vue'
import LawFigure from './LawFigure.vue'
import { figuresShown, type Cut } from './lawList'
import { changeOf } from './scenario'
import WhatIf from './WhatIf.vue'

/** Every figure of the law a return rests on, beside another year, and which of them were held against a printed source. */
const route = useRoute()
const router = useRouter()
const { problem, act } = useAct()
const session = useSession()
const types = ref<Schemas['ReturnTypeView'][]>([])
const view = ref<Schemas['LawView'] | null>(null)
const typed = ref(String(route.query.find ?? ''))
const cut = ref<Cut>('all')
const cuts: { name: Cut; label: string }[] = [
  { name: 'all', label: 'All' },
  { name: 'open', label: 'Not verified' },
  { name: 'unsure', label: 'Not certain' },
  { name: 'changed', label: 'Changed' },
  { name: 'corrected', label: 'Corrected' },
]

const titles = computed(() => new Map(types.value.map((type) => [type.id, type.title])))
const asked = computed(() => {
  const type = types.value.find((t) => t.id === route.query.return) ?? types.value[0]
  if (!type) return null
  const year = type.years.includes(Number(route.query.year)) ? Number(route.query.year) : Math.max(...type.years)
  const period = type.periods.includes(String(route.query.period)) ? String(route.query.period) : type.periods[0]!
  const beside = Number(route.query.beside) || null
  return { type, year, period, beside }
})
const chosen = computed(() =>
  view.value?.groups.flatMap((g) => g.figures).find((figure) => figure.key === route.query.figure),
)
const groups = computed(() => (view.value ? figuresShown(view.value.groups, cut.value, typed.value) : []))
const count = (name: Cut) =>
  figuresShown(view.value?.groups ?? [], name, '').reduce((sum, g) => sum + g.figures.length, 0)

/** What if: figures and what they are to say, of the return, year and period that are shown. */
const asking = ref(false)
/** Verifications and corrections go out to another practice, or come in. */
const exchanging = ref(false)
const scenario = ref<Schemas['LawChangeTyped'][]>([])
function tryAnother(figure: Schemas['LawFigureView']) {
  asking.value = true
  exchanging.value = false
  if (!scenario.value.some((c) => c.figure === figure.key)) scenario.value = [...scenario.value, changeOf(figure)]
}
/** Opens or closes what stands in place of the figure. */
function show(what: 'asking' | 'exchanging') {
  const open = what === 'asking' ? asking.value && !exchanging.value : exchanging.value
  asking.value = what === 'asking' && !open
  exchanging.value = what === 'exchanging' && !open
}
/** Another figure is looked at; the scenario waits. */
function choose(key: string) {
  asking.value = false
  exchanging.value = false
  ask({ figure: key })
}
/** A return on whose pages the use of the figures can be seen. */
const shownOn = ref<Schemas['LawShownOn'] | null>(null)
let opening: Schemas['KeptScenario'] | null = null
function openKept(kept: Schemas['KeptScenario']) {
  opening = kept
  if (kept.definition === view.value?.definition && kept.year === view.value.year && kept.period === view.value.period)
    beginScenario()
  else ask({ return: kept.definition, year: kept.year, period: kept.period, beside: null, figure: null })
}
/** With the law of another return or year the scenario begins anew, with what was kept where one was opened. */
function beginScenario() {
  scenario.value = (opening?.changes ?? []).map((c) => ({
    figure: c.figure,
    value: c.value ?? null,
    ranges: c.ranges ?? null,
  }))
  opening = null
}

function ask(change: Record<string, string | number | null>) {
  const query = { ...route.query, ...change }
  for (const key of Object.keys(query)) if (query[key] === null) delete query[key]
  void router.replace({ query: query as Record<string, string> })
}
const path = computed(() => {
  const [country = '', name = ''] = asked.value!.type.id.split('/')
  return { country, name, year: asked.value!.year }
})
const articles = computed(
  () => `/api/law/${asked.value?.type.id}/${asked.value?.year}/document?period=${asked.value?.period ?? ''}`,
)
const shown = computed(() => view.value && `${view.value.definition} ${view.value.year} ${view.value.period}`)
const which = computed(() =>
  JSON.stringify([asked.value?.type.id, asked.value?.year, asked.value?.period, asked.value?.beside]),
)
watch(
  which,
  (wanted) =>
    asked.value &&
    act(async () => {
      const read = await call(
        api.GET('/api/law/{country}/{name}/{year}', {
          params: {
            path: path.value,
            query: { period: asked.value!.period, ...(asked.value!.beside ? { beside: asked.value!.beside } : {}) },
          },
        }),
      )
      // An answer about what is no longer asked comes too late.
      if (wanted !== which.value) return
      if (opening || `${read.definition} ${read.year} ${read.period}` !== shown.value) beginScenario()
      view.value = read
      const on = await call(
        api.GET('/api/law/{country}/{name}/{year}/shown-on', {
          params: { path: path.value, query: { period: asked.value!.period } },
        }),
      )
      if (wanted === which.value) shownOn.value = on
    }),
)
onMounted(() => act(async () => (types.value = await call(api.GET('/api/return-types')))))
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="law">
      <div class="choose small">
        <select
          v-if="asked"
          :value="asked.type.id"
          aria-label="Return"
          @change="ask({ return: ($event.target as HTMLSelectElement).value, year: null, beside: null, figure: null })"
        >
          <option v-for="type in types" :key="type.id" :value="type.id">{{ type.title }}</option>
        </select>
        <select
          v-if="asked"
          :value="asked.year"
          aria-label="Year"
          @change="ask({ year: ($event.target as HTMLSelectElement).value, beside: null })"
        >
          <option v-for="year in asked.type.years" :key="year" :value="year">{{ year }}</option>
        </select>
        <select
          v-if="asked && asked.type.periods.length > 1"
          :value="asked.period"
          aria-label="Period"
          @change="ask({ period: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="period in asked.type.periods" :key="period" :value="period">{{ period.toUpperCase() }}</option>
        </select>
        <label v-if="asked && view"
          >beside
          <select
            :value="view.beside ?? ''"
            aria-label="Beside the year"
            @change="ask({ beside: ($event.target as HTMLSelectElement).value })"
          >
            <option value="">no other year</option>
            <option v-for="year in asked.type.years.filter((y) => y !== asked!.year)" :key="year" :value="year">
              {{ year }}
            </option>
          </select></label
        >
        <span v-if="view" class="secondary" role="status"
          >{{ view.verified }} of {{ view.total }} figures verified<template v-if="view.edition"
            >; edition {{ view.edition }} of the practice's law</template
          ></span
        >
        <span class="grow"></span>
        <button
          v-if="view && session.mayPrepare"
          class="link"
          :aria-pressed="asking && !exchanging"
          @click="show('asking')"
        >
          {{ asking && !exchanging ? 'Back to the figure' : 'What if' }}
        </button>
        <button v-if="view" class="link" :aria-pressed="exchanging" @click="show('exchanging')">
          {{ exchanging ? 'Close the exchange' : 'Exchange' }}
        </button>
        <a v-if="asked" :href="articles" target="_blank" rel="noopener">Read as articles</a>
        <a v-if="asked" :href="articles.replace('/document', '/document.pdf')" download aria-label="Articles as PDF"
          >PDF</a
        >
      </div>
      <div class="both">
        <div class="scroll list">
          <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
          <div class="head">
            <h1>Figures of the law</h1>
            <input v-model="typed" type="search" class="small" placeholder="Filter" aria-label="Filter the figures" />
            <span class="cuts" role="group" aria-label="Which figures">
              <button
                v-for="item in cuts"
                :key="item.name"
                class="small"
                :class="{ at: cut === item.name }"
                :aria-pressed="cut === item.name"
                @click="cut = item.name"
              >
                {{ item.label }} {{ count(item.name) }}
              </button>
            </span>
          </div>
          <section v-for="group in groups" :key="group.title" :aria-label="group.title">
            <div class="rule-head">
              <h2>{{ group.title }}</h2>
              <span class="small faint">{{ [view?.beside, view?.year].filter(Boolean).join(' · ') }}</span>
            </div>
            <table class="plain">
              <tbody>
                <tr
                  v-for="figure in group.figures"
                  :key="figure.key"
                  :class="{ at: figure.key === chosen?.key }"
                  @click="choose(figure.key)"
                >
                  <td class="what">
                    <button class="link plainly" @click.stop="choose(figure.key)">
                      {{ capital(figure.label) }}
                    </button>
                  </td>
                  <td class="small secondary section">
                    {{ figure.source
                    }}<template v-if="figure.confidence !== 'certain'"
                      >, <span class="unsure">{{ figure.confidence }}</span></template
                    >
                  </td>
                  <td class="amount faint">{{ figure.before }}</td>
                  <td class="amount" :class="{ changed: figure.changed }">{{ figure.value }}</td>
                  <td class="small mark">
                    <span v-if="figure.correction" class="corrected">corrected</span>
                    <span v-if="figure.proposed" class="unsure">correction proposed</span>
                    <template v-if="figure.verification?.counts"
                      >verified {{ day(figure.verification.at) }}, {{ figure.verification.by
                      }}<template v-if="figure.verification.confirmedBy">, confirmed</template></template
                    >
                    <span v-else class="unsure">{{
                      figure.verification ? 'changed since it was verified' : 'not verified'
                    }}</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </section>
          <p v-if="view && !groups.length" class="secondary">No figure is called that.</p>
        </div>
        <aside class="scroll" :aria-label="exchanging ? 'Exchange' : asking ? 'What if' : 'Figure'">
          <LawExchange v-if="exchanging && view" :view="view" :path="path" @changed="view = $event" />
          <WhatIf
            v-else-if="asking && view"
            v-model="scenario"
            :view="view"
            :path="path"
            :titles="titles"
            @open="openKept"
          />
          <LawFigure
            v-else-if="chosen && view"
            :key="`${view.definition} ${view.year} ${chosen.key}`"
            :view="view"
            :figure="chosen"
            :path="path"
            :years="asked!.type.years"
            :titles="titles"
            :articles="articles"
            :shown-on="shownOn"
            @changed="view = $event"
            @try="tryAnother(chosen)"
          />
          <p v-else class="secondary">
            Choose a figure to see what uses it, and to verify it against a printed source.
          </p>
        </aside>
      </div>
    </main>
  </div>
</template>

<style scoped>
.law {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}
.choose {
  display: flex;
  align-items: center;
  gap: 18px;
  height: 44px;
  padding: 0 18px;
  border-bottom: 1px solid var(--hairline);
}
.grow {
  flex: 1;
}
.choose select,
.head input {
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.choose option {
  background: var(--page);
}
.head input {
  width: 150px;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 360px;
  min-height: 0;
}
.list {
  padding: 14px 26px 60px;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 16px;
}
.cuts {
  display: inline-flex;
  gap: 14px;
}
.cuts button {
  border: 0;
  background: none;
  color: var(--secondary);
  cursor: pointer;
  padding: 2px 0;
}
.cuts .at {
  color: var(--ink);
  font-weight: 600;
  border-bottom: 2px solid var(--verdigris);
}
section {
  margin-top: 18px;
}
tr {
  cursor: pointer;
}
tr.at {
  background: var(--verdigris-wash);
}
.plainly {
  color: var(--ink);
  font-weight: 400;
  text-align: left;
}
.what {
  width: 38%;
}
.section {
  width: 24%;
}
.mark {
  width: 150px;
}
.changed {
  font-weight: 600;
  color: var(--ochre);
}
.unsure {
  color: var(--brick);
}
.corrected {
  color: var(--verdigris);
}
.mark > span {
  display: block;
}
aside {
  border-left: 1px solid var(--hairline);
  padding: 16px 18px 40px;
  background: var(--paper);
}
</style>
