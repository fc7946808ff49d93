<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import CalendarButton from '../../shared/CalendarButton.vue'
import { vFocus } from '../../shared/focus'
import { capital, day, plural } from '../../shared/format'

/** The particulars of a client: as stored, or blank for a new one. */
const props = defineProps<{ particulars: Schemas['ClientRecord'] | null; countries: Schemas['CountryView'][] }>()
const emit = defineEmits<{ saved: [] }>()

type Field =
  | 'identifier'
  | 'name'
  | 'clientGroup'
  | 'code'
  | 'birthDate'
  | 'yearEnd'
  | 'email'
  | 'phone'
  | 'postalAddress'
  | 'payoutRoute'
  | 'payoutBank'
  | 'payoutBranch'
  | 'payoutAccountName'
  | 'payoutAccountNumber'
  | 'payoutMobile'

const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const blank: Record<Field, string> = {
  identifier: '',
  name: '',
  clientGroup: '',
  code: '',
  birthDate: '',
  yearEnd: '',
  email: '',
  phone: '',
  postalAddress: '',
  payoutRoute: '',
  payoutBank: '',
  payoutBranch: '',
  payoutAccountName: '',
  payoutAccountNumber: '',
  payoutMobile: '',
}
const typed = reactive({ ...blank })
/** Groups that exist already; another may be typed. */
const groups = ref<string[]>([])
onMounted(() => act(async () => (groups.value = await call(api.GET('/api/clients/groups')))))
const more = reactive<Record<string, string>>({})
const country = ref('ke')
const kind = ref('individual')
const problems = reactive<Record<string, string>>({})
const alike = ref<Schemas['AlikeClient'] | null>(null)
const saved = ref('')
const isNew = computed(() => props.particulars === null)
const isCompany = computed(() => kind.value === 'company')
const its = computed(() => props.countries.find((c) => c.code === country.value)!)
const ofCountry = computed(() => (isCompany.value ? its.value.ofCompanies : its.value.ofIndividuals))
const identifierLabel = computed(() =>
  capital(kind.value === 'company' ? its.value.companyIdentifierLabel : its.value.identifierLabel),
)

watch(
  () => props.particulars,
  (stored) => {
    for (const key of Object.keys(blank) as Field[]) typed[key] = stored?.[key] ?? ''
    typed.birthDate = day(stored?.birthDate)
    for (const key of Object.keys(more)) delete more[key]
    Object.assign(more, stored?.more ?? {})
    country.value = stored?.country ?? 'ke'
    kind.value = stored?.kind ?? 'individual'
  },
  { immediate: true },
)

/** The identifier is checked while it is typed. */
let timer: number | undefined
watch([() => typed.identifier, kind, country], ([value]) => {
  window.clearTimeout(timer)
  delete problems.identifier
  if (!value) return
  timer = window.setTimeout(async () => {
    const body = { country: country.value, kind: kind.value, value, clientId: props.particulars?.id ?? null }
    const answer = await call(api.POST('/api/clients/check-identifier', { body }))
    if (typed.identifier === value && answer.problem) problems.identifier = answer.problem
  }, 150)
})

const save = (asAnother = false) =>
  act(async () => {
    saved.value = ''
    alike.value = null
    for (const key of Object.keys(problems)) delete problems[key]
    const body = {
      ...typed,
      clientGroup: typed.clientGroup ?? '',
      more,
      country: country.value,
      kind: kind.value,
      asAnother,
      revision: props.particulars?.revision ?? 0,
    }
    const result = props.particulars
      ? await call(api.PUT('/api/clients/{id}', { params: { path: { id: props.particulars.id! } }, body }))
      : await call(api.POST('/api/clients', { body }))
    for (const found of result.problems) problems[found.field] = found.message
    alike.value = result.alike ?? null
    if (result.problems.length || result.alike) return
    if (isNew.value) await router.replace(`/clients/${result.id}`)
    else {
      emit('saved')
      saved.value = result.returnsChanged ? `Saved; ${plural(result.returnsChanged, 'open return')} follow.` : 'Saved.'
    }
  })
const routes = [
  { title: 'Bank account', value: 'bank' },
  { title: 'Mobile money', value: 'mobile' },
]
const kinds = [
  { title: 'Individual', value: 'individual' },
  { title: 'Company', value: 'company' },
]
</script>

<template>
  <form @submit.prevent="save()">
    <fieldset :disabled="!session.mayPrepare">
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <div class="rule-head">
        <h2>Particulars</h2>
        <span class="small faint">exactly as the registration certificate has them</span>
      </div>
      <div class="fields">
        <template v-if="isNew">
          <v-select v-model="kind" label="Kind of client" :items="kinds" />
          <v-select v-model="country" label="Country" :items="countries" item-title="name" item-value="code" />
        </template>
        <v-text-field
          v-model="typed.identifier"
          v-focus
          class="wide"
          :label="identifierLabel"
          :error-messages="problems.identifier"
        />
        <v-text-field v-model="typed.name" class="wide" label="Official name" :error-messages="problems.name" />
        <v-text-field
          v-if="!isCompany"
          v-model="typed.birthDate"
          label="Date of birth"
          :error-messages="problems.birthDate"
        >
          <template #append-inner>
            <CalendarButton :day="particulars?.birthDate ?? ''" @picked="(picked) => (typed.birthDate = day(picked))" />
          </template>
        </v-text-field>
        <v-text-field v-else v-model="typed.yearEnd" label="Financial year end" :error-messages="problems.yearEnd" />
        <v-combobox
          v-model="typed.clientGroup"
          variant="underlined"
          density="compact"
          color="primary"
          hide-details="auto"
          label="Group (family, firm)"
          :items="groups"
          :error-messages="problems.clientGroup"
        />
        <v-text-field v-model="typed.code" label="The practice’s own code" :error-messages="problems.code" />
        <template v-for="item in ofCountry" :key="item.name">
          <v-select
            v-if="item.choices"
            v-model="more[item.name]"
            clearable
            :label="item.label"
            :items="item.choices"
            item-title="label"
            item-value="code"
            :error-messages="problems[item.name]"
          />
          <v-text-field v-else v-model="more[item.name]" :label="item.label" :error-messages="problems[item.name]" />
        </template>
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
      <p v-if="alike" class="banner warn" role="alert">
        <router-link :to="`/clients/${alike.id}`">{{ alike.name }}</router-link><template v-if="alike.birthDate"
          >, born {{ day(alike.birthDate) }},</template
        >
        is a client already; is it the same?
        <button type="button" class="link" @click="save(true)">No, add another</button>
      </p>
      <div class="acts">
        <v-btn v-if="session.mayPrepare" type="submit" :disabled="busy">{{
          isNew ? 'Add client' : 'Save particulars'
        }}</v-btn>
        <span class="secondary" role="status">{{ saved }}</span>
      </div>
    </fieldset>
  </form>
</template>

<style scoped>
.rule-head {
  margin-top: 18px;
}
fieldset {
  border: 0;
  padding: 0;
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
.banner {
  margin: 14px 0 0;
}
.banner .link {
  margin-left: 14px;
}
</style>
