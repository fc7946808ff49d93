<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day, difference, lineText } from '../../shared/format'
import NotePayment from './NotePayment.vue'
import type { ReturnStore } from '../../return/returnStore'

/** A refund that is claimed: to which account, what has come in, what is still awaited. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const { problem, act } = useAct()
const view = ref<Schemas['PaymentsView'] | null>(null)
const path = { id: store.id }
onMounted(() => act(async () => (view.value = await call(api.GET('/api/returns/{id}/payments', { params: { path } })))))
const claimed = computed(() => (view.value?.balance ?? '0').replace('-', ''))
const awaited = computed(() => difference(claimed.value, view.value?.paid ?? '0'))

/** The lines that say where the money goes. */
const account = computed(() =>
  (store.layout.forms.find((form) => form.key === 'payout')?.sections ?? [])
    .flatMap((section) => section.lines)
    .map((line) => ({ line, value: store.valueOf(line.key, null)?.value }))
    .filter((entry) => entry.value)
    .map(({ line, value }) => lineText(line, value))
    .join(', '),
)
</script>

<template>
  <div v-if="view">
    <table class="plain">
      <tbody>
        <tr>
          <td>{{ view.assessed ? 'Refund as assessed' : 'Refund claimed' }}</td>
          <td class="amount">{{ amount(claimed) }} {{ store.view.value.currency }}</td>
        </tr>
        <tr v-if="account">
          <td>To</td>
          <td class="amount account">{{ account }}</td>
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
    <NotePayment
      v-if="session.mayPrepare && awaited !== '0'"
      :return-id="store.id"
      day="Received on"
      reference="Reference of the bank"
      words="Record"
      @noted="(now) => (view = now)"
    />
  </div>
</template>

<style scoped>
td:first-child {
  white-space: nowrap;
}
.account {
  white-space: normal;
}
.left td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
}
</style>
