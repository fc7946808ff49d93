<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import KeptBar from '../../shared/KeptBar.vue'
import { isKept } from '../../shared/kept'
import TopBar from '../../bar/TopBar.vue'
import DocumentsPanel from './DocumentsPanel.vue'
import HistoryPanel from './HistoryPanel.vue'
import KeepingPanel from './KeepingPanel.vue'
import ParticularsForm from './ParticularsForm.vue'
import RelationsPanel from './RelationsPanel.vue'
import ReturnMatrix from './ReturnMatrix.vue'
import StandingPanel from './StandingPanel.vue'
import StatementsPanel from './StatementsPanel.vue'

const route = useRoute()
const session = useSession()
const { problem, act } = useAct()
const id = computed(() => (route.params.id ? Number(route.params.id) : null))
const view = ref<Schemas['ClientView'] | null>(null)
const types = ref<Schemas['ReturnTypeView'][]>([])
const countries = ref<Schemas['CountryView'][]>([])
const teams = ref<Schemas['TeamView'][]>([])
const tabs = [
  ['', 'Particulars and returns'],
  ['standing', 'Standing'],
  ['documents', 'Documents'],
  ['statements', 'Statements'],
  ['history', 'History'],
  ['keeping', 'Export and deletion'],
] as const
const tab = computed(() => String(route.query.view ?? ''))

const load = () =>
  act(async () => {
    if (!countries.value.length) countries.value = await call(api.GET('/api/countries'))
    if (!types.value.length) types.value = await call(api.GET('/api/return-types'))
    if (id.value === null) view.value = null
    else {
      view.value = await call(api.GET('/api/clients/{id}', { params: { path: { id: id.value } } }))
      teams.value = (await call(api.GET('/api/practice'))).teams
      document.title = `${view.value.particulars.name} - Aerarium`
    }
  })
watch(id, load, { immediate: true })

const restrict = (teamId: number | null) =>
  act(async () => {
    await call(api.PUT('/api/clients/{id}/team', { params: { path: { id: id.value! } }, body: { teamId } }))
    await load()
  })
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll client">
      <KeptBar v-if="id !== null && isKept(id)" :id="id" class="bar" />
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <template v-if="countries.length && (id === null || view)">
        <h1>{{ view?.particulars.name ?? 'New client' }}</h1>
        <nav v-if="view" class="tabs" aria-label="About this client">
          <router-link
            v-for="[key, label] in tabs"
            :key="key"
            :to="{ query: key ? { view: key } : {} }"
            :class="{ at: tab === key }"
            :aria-current="tab === key ? 'page' : undefined"
            >{{ label }}</router-link
          >
        </nav>
        <div v-if="!view || !tab" class="columns">
          <ParticularsForm :particulars="view?.particulars ?? null" :countries="countries" @saved="load" />
          <div v-if="view" class="beside">
            <ReturnMatrix :client="view.particulars" :returns="view.returns" :types="types" />
            <RelationsPanel
              :client="view.particulars"
              :relations="view.relations"
              :members="view.groupMembers"
              :year="view.returns.length ? Math.max(...view.returns.map((r) => r.year)) : undefined"
              @changed="load"
            />
            <section v-if="teams.length" aria-label="Team">
              <div class="rule-head"><h2>Team</h2></div>
              <p class="secondary small">A client of a team is seen by its people, managers and administrators only.</p>
              <v-select
                :model-value="view.particulars.teamId ?? null"
                label="Restricted to"
                :items="[{ id: null, name: 'Everybody' }, ...teams]"
                item-title="name"
                item-value="id"
                :disabled="!session.mayManage"
                @update:model-value="restrict"
              />
            </section>
          </div>
        </div>
        <StandingPanel v-else-if="tab === 'standing'" :key="`o${id}`" :client-id="id!" />
        <DocumentsPanel v-else-if="tab === 'documents'" :key="id!" :client-id="id!" :returns="view.returns" />
        <StatementsPanel v-else-if="tab === 'statements'" :key="`s${id}`" :client="view.particulars" />
        <HistoryPanel v-else-if="tab === 'history'" :key="`h${id}`" :client-id="id!" :returns="view.returns" />
        <KeepingPanel v-else :key="`k${id}`" :client="view.particulars" />
      </template>
    </main>
  </div>
</template>

<style scoped>
.client {
  background: var(--page);
  padding: 18px 30px 40px;
}
.bar {
  margin: -18px -30px 14px;
}
.tabs {
  display: flex;
  gap: 22px;
  margin: 10px 0 14px;
  border-bottom: 1px solid var(--hairline);
}
.tabs a {
  padding: 6px 0;
  color: var(--secondary);
  font-weight: 400;
  border-bottom: 2px solid transparent;
}
.tabs .at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 620px) minmax(0, 500px);
  gap: 44px;
}
.beside > section {
  margin-top: 18px;
}
</style>
