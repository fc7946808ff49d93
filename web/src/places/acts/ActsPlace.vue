<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { moment, plural } from '../../shared/format'
import TopBar from '../../shared/TopBar.vue'

const acts = ref<Schemas['ActRecord'][]>([])
const chain = ref<Schemas['ChainView'] | null>(null)
const { problem, act: run } = useAct()
const verify = () =>
  run(async () => {
    chain.value = null
    chain.value = await call(api.GET('/api/acts/verification'))
  })
onMounted(async () => {
  await run(async () => (acts.value = await call(api.GET('/api/acts'))))
  await verify()
})
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll acts">
      <h1>Ledger of acts</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <template v-if="acts.length">
        <p v-if="!chain" class="secondary" role="status">Following the chain ...</p>
        <p v-else-if="chain.firstBroken == null" class="secondary" role="status">
          The chain is unbroken from the first act to the last, {{ plural(chain.acts, 'act') }}.
          <button class="link" @click="verify">Verify again</button>
        </p>
        <p v-else class="banner bad" role="alert">
          The chain breaks at act {{ chain.firstBroken }}: it, or one before it, was altered outside the application.
        </p>
        <table class="plain">
          <thead>
            <tr>
              <th>No.</th>
              <th>When</th>
              <th>Who</th>
              <th>Act</th>
              <th>Return</th>
              <th>Line</th>
              <th>Before</th>
              <th>After</th>
              <th>Origin</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="act in acts" :key="act.id">
              <td class="faint">{{ act.id }}</td>
              <td>{{ moment(act.at) }}</td>
              <td>{{ act.personName }}</td>
              <td>{{ act.kind }}</td>
              <td>
                <router-link v-if="act.returnId" :to="`/returns/${act.returnId}/fill`">{{ act.returnId }}</router-link>
              </td>
              <td class="cut">{{ act.line }}</td>
              <td class="cut">{{ act.before }}</td>
              <td class="cut">{{ act.after }}</td>
              <td class="secondary">{{ act.origin }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </main>
  </div>
</template>

<style scoped>
.acts {
  padding: 18px 30px 40px;
  background: var(--page);
}
.cut {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
