<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import TopBar from '../../bar/TopBar.vue'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day, plural } from '../../shared/format'

/** Clients for whom a return that nobody must file would likely give a refund. */
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const refunds = ref<Schemas['LikelyRefund'][] | null>(null)
onMounted(() => act(async () => (refunds.value = await call(api.GET('/api/desk/likely-refunds')))))
const open = (item: Schemas['LikelyRefund']) =>
  act(async () => {
    const opened = await call(
      api.POST('/api/clients/{clientId}/returns', {
        params: { path: { clientId: item.clientId } },
        body: { definition: item.definition, year: item.year, kind: 'original' },
      }),
    )
    await router.push(`/returns/${opened.id}`)
  })
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll refunds">
      <p class="small"><router-link to="/desk">Desk</router-link></p>
      <h1>Likely refunds</h1>
      <p class="secondary">
        Returns of earlier years that need not be filed, were not opened here and would likely give a refund. Estimates
        from what is known, to ask the client by; what runs out first comes first.
      </p>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <table v-if="refunds?.length" class="plain">
        <thead>
          <tr>
            <th>Client</th>
            <th>Return</th>
            <th>Year</th>
            <th class="amount">Refund, about</th>
            <th>Known</th>
            <th>Can be filed until</th>
            <th v-if="session.mayPrepare"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in refunds" :key="`${item.clientId} ${item.definition} ${item.year}`">
            <td>
              <router-link :to="`/clients/${item.clientId}`">{{ item.client }}</router-link>
            </td>
            <td>{{ item.title }}</td>
            <td>{{ item.year }}</td>
            <td class="amount">{{ amount(item.refund) }} {{ item.currency }}</td>
            <td class="secondary">{{ item.known }}</td>
            <td>
              {{ day(item.until) }} <span class="small faint">{{ plural(item.daysLeft, 'day') }}</span>
            </td>
            <td v-if="session.mayPrepare">
              <button
                class="link"
                :disabled="busy"
                :aria-label="`Open the return of ${item.client} for ${item.year}`"
                @click="open(item)"
              >
                Open the return
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else-if="refunds" class="secondary">No client has a year that would likely give a refund.</p>
    </main>
  </div>
</template>

<style scoped>
.refunds {
  padding: 14px 18px 40px;
}
.refunds > p.secondary {
  max-width: 760px;
}
table {
  margin-top: 14px;
}
</style>
