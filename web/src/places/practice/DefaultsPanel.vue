<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { day, plural } from '../../shared/format'

/** What the practice keeps for a country: every open return follows it, and saving first says which would change. */
const session = useSession()
const { busy, problem, act } = useAct()
const props = defineProps<{ code: string }>()
const country = ref<Schemas['PracticeDefaultsView'] | null>(null)
const typed = reactive<Record<string, string>>({})
const userName = ref('')
const secret = ref('')
const problems = reactive<Record<string, string>>({})
const tried = ref<Schemas['PracticeDefaultsSaved'] | null>(null)
const saved = ref('')

async function load() {
  const all = await call(api.GET('/api/practice/particulars'))
  country.value = all.find((c) => c.country === props.code)!
  for (const item of country.value?.particulars ?? []) typed[item.name] = item.value ?? ''
  userName.value = country.value?.userName ?? ''
  secret.value = ''
}
onMounted(() => act(load))
const missing = computed(() => [
  ...(country.value?.particulars.filter((p) => p.mandatory && !p.value).map((p) => p.label) ?? []),
  ...(country.value && !country.value.userName && !country.value.consent
    ? ['Consent or credentials with the authority']
    : []),
])
const body = () => ({
  values: { ...typed },
  userName: userName.value || null,
  secret: secret.value || null,
})
const path = () => ({ country: country.value!.country })
function refused(result: Schemas['PracticeDefaultsSaved']): boolean {
  for (const key of Object.keys(problems)) delete problems[key]
  for (const found of result.problems) problems[found.field] = found.message
  return result.problems.length > 0
}
const connect = () =>
  act(async () => {
    const begun = await call(api.POST('/api/practice/consent/{country}/begin', { params: { path: path() } }))
    window.location.assign(begun.address)
  })
const withdraw = () =>
  act(async () => {
    await call(api.DELETE('/api/practice/consent/{country}', { params: { path: path() } }))
    await load()
  })
const write = (definition: string, form: string) =>
  act(async () => {
    await call(api.PUT('/api/practice/e-return-form', { body: { definition, form } }))
    await load()
  })
const look = () =>
  act(async () => {
    saved.value = ''
    tried.value = null
    const result = await call(
      api.POST('/api/practice/particulars/{country}/try', { params: { path: path() }, body: body() }),
    )
    if (!refused(result)) tried.value = result
  })
const save = () =>
  act(async () => {
    const result = await call(
      api.PUT('/api/practice/particulars/{country}', { params: { path: path() }, body: body() }),
    )
    if (refused(result)) return
    tried.value = null
    await load()
    saved.value = result.batch
      ? `Saved; ${plural(result.returns, 'open return')} follow, see the Desk for how far it has come.`
      : `Saved; ${plural(result.returns, 'open return')} ${result.returns === 1 ? 'follows' : 'follow'}.`
  })
</script>

<template>
  <section v-if="country" :aria-label="`Particulars and defaults, ${country.name}`">
    <div class="rule-head">
      <h2>Particulars and defaults, {{ country.name }}</h2>
      <span class="small faint">every return that has not been sent follows</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="missing.length" class="banner bad">
      Missing, and returns cannot be filed without: {{ missing.join('; ') }}.
    </p>
    <p class="consent">
      <template v-if="country.consent">
        Connected with the authority by the consent of {{ country.consent.givenBy }},
        {{ day(country.consent.givenAt) }}.
        <button v-if="session.mayManage" type="button" class="link" :disabled="busy" @click="withdraw">
          Withdraw the consent
        </button>
      </template>
      <template v-else-if="session.mayManage">
        <button type="button" class="link" :disabled="busy" @click="connect">Connect with the authority</button>
        <span class="secondary"> you agree there; no secret is kept here</span>
      </template>
    </p>
    <p v-for="item in country.forms" :key="item.definition" class="consent">
      <label
        >{{ item.title }}, e-return as
        <select
          :value="item.form"
          :disabled="!session.mayManage || busy"
          @change="write(item.definition, ($event.target as HTMLSelectElement).value)"
        >
          <option value="xml">XML, signed within</option>
          <option value="json">JSON, signed beside</option>
        </select></label
      >
    </p>
    <form @submit.prevent="look">
      <fieldset :disabled="!session.mayManage">
        <div class="fields">
          <template v-for="item in country.particulars" :key="item.name">
            <v-select
              v-if="item.choices"
              v-model="typed[item.name]"
              :label="item.label"
              :items="item.choices"
              item-title="label"
              item-value="code"
              clearable
              :error-messages="problems[item.name]"
            />
            <v-text-field
              v-else
              v-model="typed[item.name]"
              :label="item.label"
              :hint="item.hint ?? ''"
              persistent-hint
              :error-messages="problems[item.name]"
            />
          </template>
          <v-text-field
            v-if="!country.consent"
            v-model="userName"
            label="User name with the authority"
            autocomplete="off"
            :error-messages="problems.userName"
          />
          <v-text-field
            v-if="!country.consent"
            v-model="secret"
            label="Secret with the authority"
            type="password"
            autocomplete="new-password"
            :hint="
              country.secretChangedAt
                ? `kept encrypted since ${day(country.secretChangedAt)}, never shown; leave blank to keep it`
                : 'kept encrypted, never shown again'
            "
            persistent-hint
            :error-messages="problems.secret"
          />
        </div>
        <div v-if="session.mayManage" class="acts">
          <v-btn v-if="!tried" type="submit" :disabled="busy">See what changes</v-btn>
          <template v-else>
            <v-btn :disabled="busy" @click="save">Save, and let {{ plural(tried.returns, 'return') }} follow</v-btn>
            <button type="button" class="link" @click="tried = null">Cancel</button>
          </template>
          <span class="secondary" role="status">{{ saved }}</span>
        </div>
      </fieldset>
    </form>
    <template v-if="tried">
      <p v-if="!tried.changes.length" class="secondary">No open return changes; new ones will follow.</p>
      <table v-else class="plain" aria-label="Lines that would change">
        <thead>
          <tr>
            <th>Client</th>
            <th>Year</th>
            <th>Line</th>
            <th>Now</th>
            <th>Then</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(change, index) in tried.changes" :key="index">
            <td>
              <router-link :to="`/returns/${change.returnId}/fill`">{{ change.client }}</router-link>
            </td>
            <td>{{ change.year }}</td>
            <td>{{ change.label }}</td>
            <td class="secondary">{{ change.was ?? 'blank' }}</td>
            <td>{{ change.now ?? 'blank' }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: start;
  gap: 10px 24px;
  padding-top: 12px;
}
.consent {
  margin: 10px 0 0;
}
.consent select {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
.acts {
  display: flex;
  gap: 18px;
  align-items: center;
  margin: 14px 0;
}
</style>
