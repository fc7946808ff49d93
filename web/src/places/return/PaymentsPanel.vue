<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { amount, day } from '../../shared/format'
import NotePayment from './NotePayment.vue'
import type { ReturnStore } from '../../return/returnStore'

/** Payments noted towards a filed return, and what is left. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const view = ref<Schemas['PaymentsView'] | null>(null)
const { busy, problem, act } = useAct()
const path = { id: store.id }
const on = ref('')
/** The advice for a day: today, or the first due day, unless another is chosen. */
const advise = () =>
  act(async () => {
    const query = on.value ? { on: on.value } : {}
    view.value = await call(api.GET('/api/returns/{id}/payments', { params: { path, query } }))
    on.value = day(view.value.on)
  })
onMounted(advise)
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
          <td>Reference of the payment</td>
          <td>
            <img :src="`/api/returns/${store.id}/payments/reference.svg`" alt="QR code of the reference" class="qr" />
          </td>
          <td class="amount reference" data-reference>{{ view.reference.replace(/(.{4})(?=.)/g, '$1 ') }}</td>
          <td></td>
        </tr>
        <template v-for="part in view.parts" :key="part.label">
          <tr>
            <td>{{ part.label }}, by {{ day(part.due) }}</td>
            <td></td>
            <td class="amount">{{ amount(part.amount) }} {{ view.currency }}</td>
            <td></td>
          </tr>
          <tr v-for="charge in part.charges" :key="charge.label" :title="charge.words">
            <td class="charge">{{ charge.label }}, if paid on {{ day(view.on) }}</td>
            <td class="small secondary">{{ charge.law }}</td>
            <td class="amount">{{ amount(charge.amount) }}</td>
            <td></td>
          </tr>
        </template>
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
        <tr v-if="view.dueBy !== view.left">
          <td>Due by {{ day(view.on) }}</td>
          <td></td>
          <td class="amount" data-due>{{ amount(view.dueBy) || '0' }}</td>
          <td></td>
        </tr>
        <tr class="left">
          <td>Left to pay</td>
          <td></td>
          <td class="amount">{{ amount(view.left) || '0' }}</td>
          <td></td>
        </tr>
      </tbody>
    </table>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="view.left !== '0'" class="on small secondary">
      As of <DateField v-model="on" plain label="Advice for the day" @picked="advise" />
    </p>
    <NotePayment
      v-if="session.mayPrepare"
      :return-id="store.id"
      day="Paid on"
      reference="Reference on the slip"
      words="Record payment"
      @noted="advise"
    />
  </div>
</template>

<style scoped>
.left td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
}
.qr {
  width: 62px;
  display: block;
  padding: 4px 0;
}
.charge {
  padding-left: 16px;
}
.reference {
  font-size: 14px;
  letter-spacing: 0.02em;
}
.on {
  display: inline-block;
  margin-top: 10px;
}
</style>
