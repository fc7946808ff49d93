<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call } from '../../api/client'
import { amount, day, daysLeft } from '../../shared/format'
import type { ReturnStore } from './returnStore'

const store = inject<ReturnStore>('return')!
const router = useRouter()
const problem = ref('')
const refund = computed(() => store.balance.startsWith('-'))

async function amend() {
  problem.value = ''
  const view = store.view.value
  try {
    const opened = await call(
      api.POST('/api/clients/{clientId}/returns', {
        params: { path: { clientId: view.clientId } },
        body: { definition: view.definition, year: view.year, kind: 'amended' },
      }),
    )
    await router.push(`/returns/${opened.id}/fill`)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <div class="after scroll">
    <div class="column">
      <h1>After</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <p v-if="store.stage.value !== 'accepted'" class="secondary">
        This part begins when the authority has accepted the return.
      </p>
      <template v-else>
        <section>
          <div class="rule-head"><h2>Pay or be repaid</h2></div>
          <table class="plain">
            <tbody>
              <tr>
                <td>{{ refund ? 'Refund claimed' : 'To pay' }}</td>
                <td class="amount">{{ amount(store.balance.replace('-', '')) }} {{ store.view.value.currency }}</td>
              </tr>
              <tr
                v-for="deadline in store.view.value.deadlines.filter((d) => !refund && d.act === 'payment')"
                :key="deadline.act"
              >
                <td>{{ deadline.label }}</td>
                <td class="amount">{{ day(deadline.day) }}, {{ daysLeft(deadline.daysLeft) }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section>
          <div class="rule-head"><h2>Amend</h2></div>
          <p class="secondary">An amended return starts from the filed one.</p>
          <v-btn variant="outlined" @click="amend">Open an amended return</v-btn>
        </section>
      </template>
    </div>
  </div>
</template>

<style scoped>
.after {
  background: var(--page);
}
.column {
  max-width: 700px;
  padding: 18px 30px 40px;
}
section {
  margin-top: 20px;
}
</style>
