<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount } from '../../shared/format'

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
const years = computed(() => [...new Set(own.value.flatMap((t) => t.years))].sort((a, b) => b - a))
const returnsOf = (definition: string, year: number) =>
  props.returns.filter((r) => r.definition === definition && r.year === year)

/** What is about to be opened although an older year has not been filed. */
const asked = ref<{ definition: string; year: number; older: number[]; roll: boolean } | null>(null)
const olderUnfiled = (definition: string, year: number) =>
  (props.types.find((t) => t.id === definition)?.years ?? [])
    .filter((y) => y < year && !returnsOf(definition, y).some((r) => r.stage === 'accepted' || r.stage === 'sent'))
    .sort((a, b) => a - b)
const lastYears = (definition: string, year: number) => returnsOf(definition, year - 1)[0]

function open(definition: string, year: number, roll: boolean, anyway = false) {
  const older = olderUnfiled(definition, year)
  if (older.length && !anyway) {
    asked.value = { definition, year, older, roll }
    return
  }
  asked.value = null
  void act(async () => {
    const opened = roll
      ? await call(
          api.POST('/api/returns/{id}/roll-forward', { params: { path: { id: lastYears(definition, year)!.id } } }),
        )
      : await begin(definition, year, 'original')
    await router.push(`/returns/${opened.id}/scope`)
  })
}
const begin = (definition: string, year: number, kind: string) =>
  call(
    api.POST('/api/clients/{clientId}/returns', {
      params: { path: { clientId: props.client.id! } },
      body: { definition, year, kind },
    }),
  )
const amend = (definition: string, year: number) =>
  act(async () => router.push(`/returns/${(await begin(definition, year, 'amended')).id}/fill`))
const mayAmend = (definition: string, year: number) =>
  session.mayPrepare &&
  returnsOf(definition, year).length > 0 &&
  returnsOf(definition, year).every((r) => r.stage === 'accepted')
const mayOpen = (type: Schemas['ReturnTypeView'], year: number) =>
  session.mayPrepare && !returnsOf(type.id, year).length && type.years.includes(year)
</script>

<template>
  <section aria-label="Returns">
    <div class="rule-head"><h2>Returns</h2></div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="asked" class="banner warn" role="alert">
      {{ asked.older.join(' and ') }} {{ asked.older.length === 1 ? 'has' : 'have' }} not been filed; older years come
      first, and penalties run on them.
      <button class="link" @click="open(asked.definition, asked.year, asked.roll, true)">
        Open {{ asked.year }} all the same
      </button>
      <button class="link" @click="asked = null">Not yet</button>
    </p>
    <p v-if="!own.length" class="secondary">No return of companies of this country is covered yet.</p>
    <table v-else class="plain">
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
            <div v-for="item in returnsOf(type.id, year)" :key="item.id">
              <router-link :to="`/returns/${item.id}/fill`"
                >{{ item.kind === 'amended' ? 'amended, ' : '' }}{{ item.stage }}</router-link
              >
              <span class="small secondary balance">{{ amount(item.balance) }}</span>
            </div>
            <button v-if="mayAmend(type.id, year)" class="link small" :disabled="busy" @click="amend(type.id, year)">
              amend {{ year }}
            </button>
            <button v-if="mayOpen(type, year)" class="link" :disabled="busy" @click="open(type.id, year, false)">
              Open {{ year }}
            </button>
            <button
              v-if="mayOpen(type, year) && lastYears(type.id, year)"
              class="link roll"
              :disabled="busy"
              @click="open(type.id, year, true)"
            >
              roll forward
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.balance {
  margin-left: 8px;
}
.banner .link {
  margin-left: 14px;
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
