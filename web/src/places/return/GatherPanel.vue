<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { amount, day } from '../../shared/format'
import GatheredItems from './GatheredItems.vue'
import type { ReturnStore } from '../../return/returnStore'

const props = defineProps<{ form: string }>()
const store = inject<ReturnStore>('return')!
const record = ref<Schemas['AuthorityRecordView'] | null>(null)
const statements = ref<Schemas['GatheredItem'][]>([])
const givenBy = ref(store.view.value.clientName)
const givenOn = ref('')
const { busy, problem, act } = useAct()
const path = { id: store.id }

const loadStatements = () =>
  act(async () => (statements.value = here(await call(api.GET('/api/returns/{id}/statements', { params: { path } })))))
const ask = () =>
  act(async () => (record.value = await call(api.GET('/api/returns/{id}/authority-record', { params: { path } }))))
/** Of what was gathered, what belongs on this form. */
const here = (items: Schemas['GatheredItem'][]) =>
  items.filter((item) => item.lines.some((line) => store.formOf(line.line)?.key === props.form))
const held = computed(() => here(record.value?.items ?? []))
const consent = () =>
  act(async () => {
    await call(
      api.PUT('/api/clients/{id}/consent', {
        params: { path: { id: store.view.value.clientId } },
        body: { givenBy: givenBy.value, givenOn: givenOn.value || null },
      }),
    )
    await ask()
  })
const withdraw = () =>
  act(async () => {
    await call(api.DELETE('/api/clients/{id}/consent', { params: { path: { id: store.view.value.clientId } } }))
    await ask()
  })
onMounted(async () => {
  await loadStatements()
  await ask()
})
</script>

<template>
  <section class="gather" aria-label="What was gathered">
    <template v-if="statements.length">
      <div class="rule-head">
        <h2>Statements of the client</h2>
        <router-link class="small" :to="`/clients/${store.view.value.clientId}?view=statements`"
          >entered and imported there</router-link
        >
      </div>
      <GatheredItems :items="statements" from="statements" @changed="loadStatements" />
    </template>
    <div class="rule-head">
      <h2>What the authority holds</h2>
      <span class="faint small">never complete; check each item against the original</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">
      {{ problem }} <button class="link" @click="ask">Try again</button>
    </p>
    <p v-else-if="!record" class="secondary">Asking the authority ...</p>
    <form v-if="record && !record.consent" class="consent among" @submit.prevent="consent">
      <p>Nothing is asked before the client has consented to it.</p>
      <label>Consent given by <input v-model="givenBy" aria-label="Consent given by" /></label>
      <span>on <DateField v-model="givenOn" plain label="Consent given on" /></span>
      <v-btn type="submit" :disabled="busy || !givenBy.trim()">Record the consent and ask</v-btn>
    </form>
    <template v-else-if="record">
      <p class="small secondary">
        {{ record.consent!.givenBy }} consented on {{ day(record.consent!.givenOn) }}, recorded by
        {{ record.consent!.notedBy }}. <button class="link" :disabled="busy" @click="withdraw">Withdrawn</button>
      </p>
      <p v-if="!held.length" class="secondary">It holds nothing for this page, taxpayer and year.</p>
      <GatheredItems :items="held" from="authority-record" @changed="ask" />
      <p v-if="record.neverHeld.length" class="small secondary">
        Never held there, ask the client for it: {{ record.neverHeld.join('; ') }}.
      </p>
      <template v-if="record.lastAssessment">
        <div class="rule-head last">
          <h2>Last assessment</h2>
          <span class="small secondary">{{ record.lastAssessment.title }}</span>
        </div>
        <table class="plain small">
          <tbody>
            <tr v-for="fact in record.lastAssessment.facts" :key="fact.label">
              <td>{{ fact.label }}</td>
              <td class="amount">{{ amount(fact.amount) }}</td>
            </tr>
          </tbody>
        </table>
        <p class="small">{{ record.lastAssessment.carriedForward }}</p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.gather {
  margin: 48px 30px 0;
  padding: 14px 18px 18px;
  max-width: 700px;
  border: 1px solid var(--hairline);
  border-radius: 4px;
  background: var(--paper);
}
.last,
.gather > .rule-head:not(:first-child) {
  margin-top: 16px;
}
.consent {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  align-items: baseline;
}
.consent p {
  flex-basis: 100%;
  margin: 8px 0 0;
}
.consent input {
  width: 190px;
}
</style>
