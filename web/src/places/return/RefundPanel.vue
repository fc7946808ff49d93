<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day, difference } from '../../shared/format'
import type { ReturnStore } from './returnStore'

/** A refund that is claimed: to which account, what has come in, what is still awaited. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const { busy, problem, act } = useAct()
const view = ref<Schemas['PaymentsView'] | null>(null)
const typed = ref({ paidOn: '', amount: '', reference: '' })
const path = { id: store.id }
onMounted(() => act(async () => (view.value = await call(api.GET('/api/returns/{id}/payments', { params: { path } })))))
const claimed = computed(() => store.balance.replace('-', ''))
const awaited = computed(() => difference(claimed.value, view.value?.paid ?? '0'))

/** The lines that say where the money goes. */
const account = computed(() =>
  (store.layout.forms.find((form) => form.key === 'payout')?.sections ?? [])
    .flatMap((section) => section.lines)
    .map((line) => ({ line, value: store.valueOf(line.key, null)?.value }))
    .filter((entry) => entry.value)
    .map(({ line, value }) => line.choices?.find((c) => c.code === value)?.label ?? value)
    .join(', '),
)
const note = () =>
  act(async () => {
    view.value = await call(api.POST('/api/returns/{id}/payments', { params: { path }, body: typed.value }))
    typed.value = { paidOn: '', amount: '', reference: '' }
  })
</script>

<template>
  <div v-if="view">
    <table class="plain">
      <tbody>
        <tr>
          <td>A refund is claimed</td>
          <td class="amount">{{ amount(claimed) }} {{ store.view.value.currency }}</td>
        </tr>
        <tr v-if="account">
          <td>To</td>
          <td class="amount">{{ account }}</td>
        </tr>
        <tr v-for="item in view.payments" :key="item.id">
          <td>Received {{ day(item.paidOn) }}, {{ item.reference }}</td>
          <td class="amount">{{ amount(`-${item.amount}`) }}</td>
        </tr>
        <tr class="left">
          <td>Still awaited</td>
          <td class="amount" data-awaited>{{ amount(awaited) || '0' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <form v-if="session.mayPrepare && awaited !== '0'" class="note" @submit.prevent="note">
      <v-text-field v-model="typed.paidOn" label="Received on" hide-details />
      <v-text-field v-model="typed.amount" label="Amount" hide-details />
      <v-text-field v-model="typed.reference" label="Reference of the bank" hide-details />
      <v-btn type="submit" variant="outlined" :disabled="busy">Note it</v-btn>
    </form>
  </div>
</template>

<style scoped>
.left td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
}
.note {
  display: grid;
  grid-template-columns: 130px 150px 1fr auto;
  gap: 14px;
  align-items: center;
  margin-top: 14px;
}
</style>
