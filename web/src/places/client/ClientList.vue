<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import TopBar from '../../shared/TopBar.vue'

const session = useSession()
const clients = ref<Schemas['ClientItem'][]>([])
const typed = ref('')
const shown = computed(() =>
  clients.value.filter((c) =>
    `${c.name} ${c.identifier} ${c.clientGroup ?? ''}`.toLowerCase().includes(typed.value.toLowerCase()),
  ),
)
onMounted(async () => (clients.value = await call(api.GET('/api/clients'))))
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll list">
      <div class="head">
        <h1>Clients</h1>
        <input v-model="typed" type="search" placeholder="Filter" aria-label="Filter the clients" />
        <router-link v-if="session.mayPrepare" to="/clients/new">Add client</router-link>
      </div>
      <table class="plain">
        <thead>
          <tr>
            <th>Name</th>
            <th>Identifier</th>
            <th>Group</th>
            <th class="amount">Returns</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="client in shown" :key="client.id">
            <td>
              <router-link :to="`/clients/${client.id}`">{{ client.name }}</router-link>
            </td>
            <td>{{ client.identifier }}</td>
            <td class="secondary">{{ client.clientGroup }}</td>
            <td class="amount">{{ client.returns }}</td>
          </tr>
        </tbody>
      </table>
    </main>
  </div>
</template>

<style scoped>
.list {
  padding: 18px 30px;
  background: var(--page);
}
.head {
  display: flex;
  gap: 24px;
  align-items: baseline;
  padding-bottom: 12px;
  max-width: 900px;
}
table {
  max-width: 900px;
}
.head h1 {
  flex: 1;
}
.head input {
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
</style>
