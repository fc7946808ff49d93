<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, partOf, periodOf } from '../../shared/format'

/** Years by return types: what there is, and what can be opened. */
const props = defineProps<{
  client: Schemas['ClientRecord']
  returns: Schemas['ClientReturnItem'][]
  types: Schemas['ReturnTypeView'][]
}>()
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const own = computed(() =>
  props.types.filter((t) => t.country === props.client.country && t.filedBy === props.client.kind),
)
const covered = computed(() => [...new Set(own.value.flatMap((t) => t.years))].sort((a, b) => b - a))

/** The latest years, fewer where a year has several periods, and those of which there is a return; the others when they are asked for. */
const latest = computed(() => (own.value.some((t) => t.periods.length > 1) ? 2 : 3))
const showsAll = ref(false)
const years = computed(() =>
  covered.value.filter((year, at) => showsAll.value || at < latest.value || props.returns.some((r) => r.year === year)),
)
const returnsOf = (definition: string, year: number, period?: string) =>
  props.returns.filter(
    (r) => r.definition === definition && r.year === year && (period === undefined || r.period === period),
  )

/** A place for a return: its kind, year and period. */
interface Slot {
  definition: string
  year: number
  period: string
}
/** A further period stands there once the one before it does: it follows a change of the year end. */
const slots = (type: Schemas['ReturnTypeView'], year: number): Slot[] =>
  !type.years.includes(year)
    ? []
    : [...type.periods, ...(type.furtherPeriod && returnsOf(type.id, year).length ? [type.furtherPeriod] : [])].map(
        (period) => ({ definition: type.id, year, period }),
      )
const isFurther = (of: Slot) => props.types.find((t) => t.id === of.definition)!.furtherPeriod === of.period

/** Years in a row from the first to the last, others one by one. */
const inWords = (years: number[]) =>
  years.length > 2 && years.at(-1)! - years[0]! === years.length - 1
    ? `${years[0]} to ${years.at(-1)}`
    : years.join(' and ')

/** What is about to be opened although an older year has not been filed. */
const asked = ref<{ of: Slot; older: number[]; roll: boolean } | null>(null)
const olderUnfiled = (of: Slot) =>
  (props.types.find((t) => t.id === of.definition)?.years ?? [])
    .filter(
      (y) =>
        y < of.year &&
        of.period === '' &&
        props.types.some((t) => t.id === of.definition && t.isFiled) &&
        !returnsOf(of.definition, y).some((r) => r.stage === 'accepted' || r.stage === 'sent'),
    )
    .sort((a, b) => a - b)

/** The return that is rolled forward: of the year before or, for quarters, of the quarter before; the last one where two end in a year. */
function before(of: Slot): Schemas['ClientReturnItem'] | undefined {
  const { periods, furtherPeriod } = props.types.find((t) => t.id === of.definition)!
  if (isFurther(of)) return undefined
  const at = periods.indexOf(of.period) - 1
  return at >= 0
    ? returnsOf(of.definition, of.year, periods[at])[0]
    : [furtherPeriod, periods.at(-1)!].flatMap((p) => (p == null ? [] : returnsOf(of.definition, of.year - 1, p)))[0]
}

function open(of: Slot, roll: boolean, anyway = false) {
  const older = olderUnfiled(of)
  if (older.length && !anyway) {
    asked.value = { of, older, roll }
    return
  }
  asked.value = null
  void act(async () => {
    const opened = roll
      ? await call(api.POST('/api/returns/{id}/roll-forward', { params: { path: { id: before(of)!.id } } }))
      : await begin(of, 'original')
    await router.push(`/returns/${opened.id}/scope`)
  })
}
const begin = (of: Slot, kind: string) =>
  call(
    api.POST('/api/clients/{clientId}/returns', {
      params: { path: { clientId: props.client.id! } },
      body: { ...of, kind },
    }),
  )
const amend = (of: Slot) => act(async () => router.push(`/returns/${(await begin(of, 'amended')).id}/fill`))
const present = (of: Slot) => returnsOf(of.definition, of.year, of.period)
const mayAmend = (of: Slot) =>
  session.mayPrepare && present(of).length > 0 && present(of).every((r) => r.stage === 'accepted')
const mayOpen = (of: Slot) => session.mayPrepare && !present(of).length
</script>

<template>
  <section aria-label="Returns">
    <div class="rule-head"><h2>Returns</h2></div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="asked" class="banner warn" role="alert">
      {{ inWords(asked.older) }} {{ asked.older.length === 1 ? 'has' : 'have' }} not been filed; older years come first,
      and penalties run on them.
      <button class="link" @click="open(asked.of, asked.roll, true)">Open {{ periodOf(asked.of) }} all the same</button>
      <button class="link" @click="asked = null">Cancel</button>
    </p>
    <p v-if="!own.length" class="secondary">No return of companies of this country is covered yet.</p>
    <div v-else class="wide">
      <table class="plain">
        <thead>
          <tr>
            <th>Return</th>
            <th v-for="year in years" :key="year">{{ year }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="type in own" :key="type.id">
            <td>{{ type.title }}</td>
            <td v-for="year in years" :key="year" class="cell">
              <div v-for="of in slots(type, year)" :key="of.period">
                <div v-for="item in present(of)" :key="item.id">
                  <span v-if="of.period" class="small secondary period">{{ partOf(of.period) }}</span>
                  <router-link :to="`/returns/${item.id}/fill`"
                    >{{ item.kind === 'amended' ? 'amended, ' : '' }}{{ item.stage }}</router-link
                  >
                  <span class="small secondary balance">{{ amount(item.balance) }}</span>
                </div>
                <button v-if="mayAmend(of)" class="link small" :disabled="busy" @click="amend(of)">
                  amend {{ periodOf(of) }}
                </button>
                <button
                  v-if="mayOpen(of)"
                  :class="['link', { small: isFurther(of) }]"
                  :title="isFurther(of) ? `Another accounting period that ends in ${of.year}` : undefined"
                  :disabled="busy"
                  @click="open(of, false)"
                >
                  {{ isFurther(of) ? 'Open a second period' : `Open ${periodOf(of)}` }}
                </button>
                <button v-if="mayOpen(of) && before(of)" class="link roll" :disabled="busy" @click="open(of, true)">
                  roll forward
                </button>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <button v-if="showsAll || years.length < covered.length" class="link small" @click="showsAll = !showsAll">
      {{ showsAll ? 'Hide earlier years' : `Show earlier years, from ${covered.at(-1)}` }}
    </button>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
.balance {
  margin-left: 8px;
}
.banner .link {
  margin-left: 14px;
}
.period {
  display: inline-block;
  min-width: 26px;
  margin-right: 4px;
}
.roll {
  margin-left: 12px;
}
.cell {
  white-space: nowrap;
}
.cell .link,
.cell a {
  display: inline-block;
  line-height: 24px;
}
</style>
