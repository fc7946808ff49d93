<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { plural } from '../../shared/format'
import TopBar from '../../bar/TopBar.vue'
import ClientImport from './ClientImport.vue'
import KeptPanel from './KeptPanel.vue'

const PAGE = 100
const session = useSession()
const typed = ref('')
const clients = ref<Schemas['ClientListRecord'][]>([])
const total = ref(0)
const importing = ref(false)
const kept = ref(false)
const { problem, act } = useAct()
let latest = 0

const load = (offset: number) =>
  act(async () => {
    const turn = ++latest
    const query = { search: typed.value, offset, limit: PAGE }
    const page = await call(api.GET('/api/clients', { params: { query } }))
    if (turn !== latest) return
    clients.value = offset ? [...clients.value, ...page.items] : page.items
    total.value = page.total
  })
let timer: number | undefined
watch(typed, () => {
  window.clearTimeout(timer)
  timer = window.setTimeout(() => void load(0), 60)
})
onMounted(() => load(0))
function onScroll(event: Event) {
  const box = event.target as HTMLElement
  if (box.scrollTop + box.clientHeight > box.scrollHeight - 400 && clients.value.length < total.value)
    void load(clients.value.length)
}
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll list" @scroll.passive="onScroll">
      <div class="head">
        <h1>Clients</h1>
        <span class="secondary">{{ plural(total, 'client') }}</span>
        <input v-model="typed" type="search" placeholder="Filter" aria-label="Filter the clients" />
        <template v-if="session.mayPrepare">
          <button class="link" :aria-expanded="importing" @click="importing = !importing">Import</button>
          <button class="link" :aria-expanded="kept" @click="kept = !kept">Kept by the client</button>
          <router-link to="/clients/new">Add client</router-link>
        </template>
      </div>
      <ClientImport v-if="importing" @stored="load(0)" />
      <KeptPanel v-if="kept" />
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
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
          <tr v-for="client in clients" :key="client.id">
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
