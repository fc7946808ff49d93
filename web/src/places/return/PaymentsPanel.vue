<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day } from '../../shared/format'
import type { ReturnStore } from './returnStore'

/** Payments noted towards a filed return, and what is left. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const view = ref<Schemas['PaymentsView'] | null>(null)
const typed = ref({ paidOn: '', amount: '', reference: '' })
const { busy, problem, act } = useAct()
const path = { id: store.id }
onMounted(() => act(async () => (view.value = await call(api.GET('/api/returns/{id}/payments', { params: { path } })))))
const note = () =>
  act(async () => {
    view.value = await call(api.POST('/api/returns/{id}/payments', { params: { path }, body: typed.value }))
    typed.value = { paidOn: '', amount: '', reference: '' }
  })
const remove = (payment: number) =>
  act(async () => {
    view.value = await call(
      api.DELETE('/api/returns/{id}/payments/{payment}', { params: { path: { ...path, payment } } }),
    )
  })
</script>

<template>
  <div v-if="view">
    <table class="plain">
      <tbody>
        <tr>
          <td>To be paid by {{ day(view.due) }}</td>
          <td></td>
          <td class="amount">{{ amount(view.balance) }} {{ view.currency }}</td>
          <td></td>
        </tr>
        <tr v-for="item in view.payments" :key="item.id">
          <td>{{ day(item.paidOn) }}, {{ item.reference }}</td>
          <td class="small secondary">{{ item.notedBy }}</td>
          <td class="amount">{{ amount(`-${item.amount}`) }}</td>
          <td>
            <button v-if="session.mayPrepare" class="link small" :disabled="busy" @click="remove(item.id!)">
              remove
            </button>
          </td>
        </tr>
        <tr class="left">
          <td>Left to pay</td>
          <td></td>
          <td class="amount">{{ amount(view.unpaid) || '0' }}</td>
          <td></td>
        </tr>
      </tbody>
    </table>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <form v-if="session.mayPrepare" class="note" @submit.prevent="note">
      <v-text-field v-model="typed.paidOn" label="Paid on" hide-details />
      <v-text-field v-model="typed.amount" label="Amount" hide-details />
      <v-text-field v-model="typed.reference" label="Reference on the slip" hide-details />
      <v-btn type="submit" :disabled="busy">Note payment</v-btn>
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
