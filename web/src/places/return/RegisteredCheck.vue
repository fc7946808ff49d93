<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { day, moment } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** How the client's particulars compare with what the authority has registered; asked when the return was opened. */
const store = inject<ReturnStore>('return')!
const found = ref<Schemas['VerificationView'] | null>(null)
const { busy, problem, act } = useAct()
const params = { path: { id: store.id } }
onMounted(() =>
  act(async () => (found.value = (await call(api.GET('/api/returns/{id}/verification', { params }))) ?? null)),
)
const verify = () => act(async () => (found.value = await call(api.POST('/api/returns/{id}/verification', { params }))))
const shown = (value: string | null | undefined) => (value ? day(value) : 'nothing')
const words: Record<string, string> = {
  agrees: 'The registered particulars agree with the client’s',
  unknown: 'Nobody is registered under this identifier',
  unreachable: 'The authority could not be asked for the registered particulars',
}
</script>

<template>
  <section v-if="problem || found || !store.locked" class="registered" aria-label="Registered particulars">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="!found" class="banner">
      The registered particulars have not been verified.
      <button v-if="!store.locked" class="link" :disabled="busy" @click="verify">Verify them</button>
    </p>
    <p v-else-if="found.state !== 'differs'" :class="found.state === 'agrees' ? 'small secondary' : 'banner warn'">
      {{ words[found.state] }}; {{ found.verifiedBy }}, {{ moment(found.verifiedAt) }}.
      <button v-if="!store.locked" class="link" :disabled="busy" @click="verify">Verify again</button>
    </p>
    <div v-else class="banner warn">
      <p>
        The authority has registered something else; correct whichever is wrong before filing.
        <button v-if="!store.locked" class="link" :disabled="busy" @click="verify">Verify again</button>
      </p>
      <table class="plain small">
        <thead>
          <tr>
            <th></th>
            <th>The client’s page</th>
            <th>Registered</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in found.differences" :key="item.particular">
            <td>{{ item.label }}</td>
            <td>{{ shown(item.ours) }}</td>
            <td>{{ shown(item.theirs) }}</td>
          </tr>
        </tbody>
      </table>
      <router-link class="small" :to="`/clients/${store.view.value.clientId}`">Go to the client’s page</router-link>
    </div>
  </section>
</template>

<style scoped>
.registered {
  margin: 46px 30px -8px;
  max-width: 700px;
}
p {
  margin: 0 0 4px;
}
.link {
  margin-left: 8px;
}
</style>
