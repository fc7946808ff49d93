<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, given } from '../../shared/format'

/** From last year's balance to this year's, cause by cause, the members beside each other. */
const props = defineProps<{ id: number; year: number; members: string[] }>()
const { problem, act } = useAct()
const view = ref<Schemas['HouseholdBridgeView'] | null>(null)
const leftOut = computed(() => props.members.filter((m) => !view.value?.members.includes(m)))
watch(
  () => [props.id, props.year],
  () =>
    act(async () => {
      view.value = await call(
        api.GET('/api/clients/{id}/household/{year}/since-last-year', {
          params: { path: { id: props.id, year: props.year } },
        }),
      )
    }),
  { immediate: true },
)
</script>

<template>
  <section aria-label="Last year">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div class="rule-head">
      <h2>From the balance of {{ year - 1 }} to that of {{ year }}</h2>
      <span class="small secondary">each cause computed on top of those above it</span>
    </div>
    <p v-if="view && !view.members.length" class="secondary">
      Nobody of the household has a return of {{ year - 1 }} here.
    </p>
    <table v-else-if="view" class="plain">
      <thead>
        <tr>
          <th></th>
          <th v-for="member in view.members" :key="member" class="amount">{{ given(member) }}</th>
          <th class="amount">Household</th>
        </tr>
      </thead>
      <tbody>
        <tr class="end">
          <td>Balance of {{ year - 1 }}</td>
          <td v-for="(one, at) in view.from" :key="at" class="amount">{{ amount(one) }}</td>
        </tr>
        <tr v-for="cause in view.causes" :key="cause.cause">
          <td>{{ cause.cause }}</td>
          <td v-for="(one, at) in cause.movements" :key="at" class="amount">{{ one === '0' ? '–' : amount(one) }}</td>
        </tr>
        <tr class="end last">
          <td>Balance of {{ year }}</td>
          <td v-for="(one, at) in view.to" :key="at" class="amount">{{ amount(one) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="view?.members.length && leftOut.length" class="small secondary">
      Without {{ leftOut.map(given).join(' and ') }}: no return of {{ year - 1 }} here.
    </p>
  </section>
</template>

<style scoped>
table {
  width: 100%;
}
.end td {
  font-weight: 600;
}
.last td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
}
</style>
