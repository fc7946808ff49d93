<script setup lang="ts">
import { computed, reactive, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { amount } from '../../shared/format'
import TopBar from '../../shared/TopBar.vue'
import { vFocus } from '../../shared/focus'

type Field = Exclude<keyof Schemas['ClientParticularsInput'], 'revision' | 'country'>

const route = useRoute()
const router = useRouter()
const session = useSession()
const id = computed(() => (route.params.id ? Number(route.params.id) : null))
const country = ref('ke')
const revision = ref(0)
const typed = reactive<Record<Field, string>>({
  identifier: '',
  name: '',
  clientGroup: '',
  birthDate: '',
  email: '',
  phone: '',
  postalAddress: '',
  payoutRoute: '',
  payoutBank: '',
  payoutBranch: '',
  payoutAccountName: '',
  payoutAccountNumber: '',
  payoutMobile: '',
})
const problems = reactive<Partial<Record<Field, string>>>({})
const returns = ref<Schemas['ClientReturnItem'][]>([])
const types = ref<Schemas['ReturnTypeView'][]>([])
const problem = ref('')
const teams = ref<Schemas['TeamView'][]>([])
const team = ref<number | null>(null)
const saved = ref('')
const years = computed(() => [...new Set(types.value.flatMap((t) => t.years))].sort((a, b) => b - a))

async function load() {
  types.value = await call(api.GET('/api/return-types'))
  if (id.value === null) return
  teams.value = (await call(api.GET('/api/practice'))).teams
  const view = await call(api.GET('/api/clients/{id}', { params: { path: { id: id.value } } }))
  for (const key of Object.keys(typed) as Field[]) typed[key] = view.particulars[key] ?? ''
  revision.value = view.particulars.revision ?? 0
  country.value = view.particulars.country
  returns.value = view.returns
  team.value = view.particulars.teamId ?? null
}
watch(id, load, { immediate: true })

/** The identifier is checked while it is typed. */
let timer: number | undefined
watch(
  () => typed.identifier,
  (value) => {
    window.clearTimeout(timer)
    delete problems.identifier
    if (!value) return
    timer = window.setTimeout(async () => {
      const answer = await call(
        api.POST('/api/clients/check-identifier', { body: { country: country.value, value, clientId: id.value } }),
      )
      if (typed.identifier === value && answer.problem) problems.identifier = answer.problem
    }, 150)
  },
)

async function save() {
  problem.value = ''
  saved.value = ''
  for (const key of Object.keys(problems) as Field[]) delete problems[key]
  const body = { ...typed, country: country.value, revision: revision.value }
  try {
    const result =
      id.value === null
        ? await call(api.POST('/api/clients', { body }))
        : await call(api.PUT('/api/clients/{id}', { params: { path: { id: id.value } }, body }))
    for (const found of result.problems) problems[found.field as Field] = found.message
    if (result.problems.length) return
    if (id.value === null) await router.replace(`/clients/${result.id}`)
    else {
      await load()
      saved.value = result.returnsChanged ? `Saved; ${result.returnsChanged} open return(s) follow.` : 'Saved.'
    }
  } catch (error) {
    problem.value = (error as Error).message
  }
}

async function restrict(teamId: number | null) {
  problem.value = ''
  try {
    await call(api.PUT('/api/clients/{id}/team', { params: { path: { id: id.value! } }, body: { teamId } }))
    await load()
  } catch (error) {
    problem.value = (error as Error).message
  }
}

/** What is about to be opened although an older year has not been filed. */
const asked = ref<{ definition: string; year: number; older: number[]; roll: boolean } | null>(null)
const olderUnfiled = (definition: string, year: number) =>
  (types.value.find((t) => t.id === definition)?.years ?? [])
    .filter((y) => y < year && !returnsOf(definition, y).some((r) => r.stage === 'accepted' || r.stage === 'sent'))
    .sort((a, b) => a - b)
const lastYears = (definition: string, year: number) => returnsOf(definition, year - 1)[0]

async function open(definition: string, year: number, roll: boolean, anyway = false) {
  problem.value = ''
  const older = olderUnfiled(definition, year)
  if (older.length && !anyway) {
    asked.value = { definition, year, older, roll }
    return
  }
  asked.value = null
  try {
    const opened = roll
      ? await call(
          api.POST('/api/returns/{id}/roll-forward', {
            params: { path: { id: lastYears(definition, year)!.id } },
          }),
        )
      : await call(
          api.POST('/api/clients/{clientId}/returns', {
            params: { path: { clientId: id.value! } },
            body: { definition, year, kind: 'original' },
          }),
        )
    await router.push(`/returns/${opened.id}/scope`)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
const returnsOf = (definition: string, year: number) =>
  returns.value.filter((r) => r.definition === definition && r.year === year)
const routes = [
  { title: 'Bank account', value: 'bank' },
  { title: 'Mobile money', value: 'mobile' },
]
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll client">
      <div class="columns">
        <form @submit.prevent="save">
          <fieldset :disabled="!session.mayPrepare">
            <h1>{{ id === null ? 'New client' : typed.name }}</h1>
            <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
            <div class="rule-head">
              <h2>Particulars</h2>
              <span class="small faint">exactly as the registration certificate has them</span>
            </div>
            <div class="fields">
              <v-text-field
                v-model="typed.identifier"
                v-focus
                label="Personal identification number"
                :error-messages="problems.identifier"
              />
              <v-text-field v-model="typed.name" label="Official name" :error-messages="problems.name" />
              <v-text-field v-model="typed.birthDate" label="Date of birth" :error-messages="problems.birthDate" />
              <v-text-field
                v-model="typed.clientGroup"
                label="Group (family, firm)"
                :error-messages="problems.clientGroup"
              />
              <v-text-field v-model="typed.email" label="E-mail address" :error-messages="problems.email" />
              <v-text-field v-model="typed.phone" label="Telephone" :error-messages="problems.phone" />
              <v-text-field
                v-model="typed.postalAddress"
                label="Postal address"
                class="wide"
                :error-messages="problems.postalAddress"
              />
            </div>
            <div class="rule-head">
              <h2>Payout account</h2>
              <span class="small faint">needed for a refund</span>
            </div>
            <div class="fields">
              <v-select
                v-model="typed.payoutRoute"
                label="Paid out by"
                :items="routes"
                clearable
                :error-messages="problems.payoutRoute"
              />
              <v-text-field
                v-if="typed.payoutRoute === 'mobile'"
                v-model="typed.payoutMobile"
                label="Mobile number"
                :error-messages="problems.payoutMobile"
              />
              <template v-if="typed.payoutRoute === 'bank'">
                <v-text-field v-model="typed.payoutBank" label="Bank" :error-messages="problems.payoutBank" />
                <v-text-field v-model="typed.payoutBranch" label="Branch" :error-messages="problems.payoutBranch" />
                <v-text-field
                  v-model="typed.payoutAccountName"
                  label="Account name"
                  :error-messages="problems.payoutAccountName"
                />
                <v-text-field
                  v-model="typed.payoutAccountNumber"
                  label="Account number"
                  :error-messages="problems.payoutAccountNumber"
                />
              </template>
            </div>
            <div class="acts">
              <v-btn v-if="session.mayPrepare" type="submit">{{
                id === null ? 'Add client' : 'Save particulars'
              }}</v-btn>
              <span class="secondary" role="status">{{ saved }}</span>
            </div>
          </fieldset>
        </form>
        <section v-if="id !== null" aria-label="Returns">
          <div class="rule-head"><h2>Returns</h2></div>
          <p v-if="asked" class="banner warn" role="alert">
            {{ asked.older.join(' and ') }} {{ asked.older.length === 1 ? 'has' : 'have' }} not been filed; older years
            come first, and penalties run on them.
            <button class="link" @click="open(asked.definition, asked.year, asked.roll, true)">
              Open {{ asked.year }} all the same
            </button>
            <button class="link" @click="asked = null">Not yet</button>
          </p>
          <table class="plain">
            <thead>
              <tr>
                <th>Return</th>
                <th v-for="year in years" :key="year">{{ year }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="type in types" :key="type.id">
                <td>{{ type.title }}</td>
                <td v-for="year in years" :key="year" class="cell">
                  <div v-for="item in returnsOf(type.id, year)" :key="item.id">
                    <router-link :to="`/returns/${item.id}/fill`"
                      >{{ item.kind === 'amended' ? 'amended, ' : '' }}{{ item.stage }}</router-link
                    >
                    <span class="small secondary balance">{{ amount(item.balance) }}</span>
                  </div>
                  <button
                    v-if="session.mayPrepare && !returnsOf(type.id, year).length && type.years.includes(year)"
                    class="link"
                    @click="open(type.id, year, false)"
                  >
                    Open {{ year }}
                  </button>
                  <button
                    v-if="
                      session.mayPrepare &&
                      !returnsOf(type.id, year).length &&
                      type.years.includes(year) &&
                      lastYears(type.id, year)
                    "
                    class="link roll"
                    @click="open(type.id, year, true)"
                  >
                    roll forward
                  </button>
                </td>
              </tr>
            </tbody>
          </table>
          <template v-if="teams.length">
            <div class="rule-head team"><h2>Team</h2></div>
            <p class="secondary small">A client of a team is seen by its people, managers and administrators only.</p>
            <v-select
              :model-value="team"
              label="Restricted to"
              :items="[{ id: null, name: 'Everybody' }, ...teams]"
              item-title="name"
              item-value="id"
              :disabled="!session.mayManage"
              @update:model-value="restrict"
            />
          </template>
        </section>
      </div>
    </main>
  </div>
</template>

<style scoped>
.client {
  background: var(--page);
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 640px) minmax(0, 480px);
  gap: 44px;
  padding: 18px 30px 40px;
}
form .rule-head {
  margin-top: 18px;
}
fieldset {
  border: 0;
  padding: 0;
}
.team {
  margin-top: 26px;
}
section {
  margin-top: 45px;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 24px;
  padding-top: 10px;
}
.wide {
  grid-column: 1 / 3;
}
.acts {
  display: flex;
  gap: 18px;
  align-items: center;
  margin-top: 22px;
}
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
</style>
