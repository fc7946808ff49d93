<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { day } from '../../shared/format'

/** What is kept about a client: all of it to take along, and for how long it must be kept. */
const props = defineProps<{ client: Schemas['ClientRecord'] }>()
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const deletion = ref<Schemas['DeletionView'] | null>(null)
const name = ref('')
const path = { id: props.client.id! }
onMounted(() =>
  act(async () => {
    deletion.value = await call(api.GET('/api/clients/{id}/deletion', { params: { path } }))
  }),
)
const remove = () =>
  act(async () => {
    await call(api.POST('/api/clients/{id}/deletion', { params: { path }, body: { name: name.value } }))
    await router.replace('/clients')
  })
</script>

<template>
  <section aria-label="Keeping">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div class="rule-head"><h2>Everything known about this client</h2></div>
    <p>
      One zip of open formats: particulars, relations, consent, statements, documents, every return with its entries,
      e-returns, receipts and payments, and the acts, with a manifest of hashes.
      <a v-if="session.mayPrepare" :href="`/api/clients/${client.id}/export.zip`" download>Export</a>
    </p>
    <template v-if="deletion">
      <div class="rule-head"><h2>Deletion</h2></div>
      <p :class="{ held: !deletion.may }">{{ deletion.words }}</p>
      <table v-if="deletion.holds.length" class="plain">
        <thead>
          <tr>
            <th>Return</th>
            <th>Filed</th>
            <th>Kept until</th>
            <th>Law</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="hold in deletion.holds" :key="hold.returnId">
            <td>{{ hold.title }}</td>
            <td>{{ hold.filedOn ? day(hold.filedOn) : 'under way' }}</td>
            <td>{{ hold.until ? day(hold.until) : '' }}</td>
            <td class="small secondary">{{ hold.source }}</td>
          </tr>
        </tbody>
      </table>
      <form v-if="deletion.may && session.mayManage" class="acts" @submit.prevent="remove">
        <v-text-field v-model="name" label="Official name, typed again" hide-details />
        <v-btn type="submit" :disabled="busy || name.trim() !== client.name">Delete for good</v-btn>
      </form>
      <p v-else-if="deletion.may" class="secondary">A manager or administrator can delete.</p>
    </template>
  </section>
</template>

<style scoped>
section {
  max-width: 860px;
}
.rule-head {
  margin-top: 14px;
}
.held {
  color: var(--ink);
}
.acts {
  display: flex;
  gap: 18px;
  align-items: center;
  max-width: 560px;
  margin-top: 12px;
}
</style>
