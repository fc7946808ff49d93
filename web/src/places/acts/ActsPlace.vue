<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, moment, plural } from '../../shared/format'
import { useSession } from '../../session'
import TopBar from '../../shared/TopBar.vue'

const acts = ref<Schemas['ActRecord'][]>([])
const chain = ref<Schemas['ChainView'] | null>(null)
const checks = ref<Schemas['VerificationCheck'][] | null>(null)
const session = useSession()
const { problem, act: run, busy } = useAct()
const verifyAll = () =>
  run(async () => {
    checks.value = null
    checks.value = await call(api.POST('/api/acts/verification'))
  })
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
        <section v-if="session.mayManage" class="all" aria-label="Verification">
          <p>
            <button class="link" :disabled="busy" @click="verifyAll">Verify every figure, file and act</button>
            <span v-if="busy" class="secondary" role="status"> Verifying ...</span>
          </p>
          <table v-if="checks" class="plain checks">
            <tbody>
              <tr v-for="check in checks" :key="check.what" :class="{ wrong: check.wrong.length }">
                <td class="amount">{{ amount(String(check.count)) }}</td>
                <td>
                  {{ check.what }}
                  <p v-for="words in check.wrong" :key="words" class="told">{{ words }}</p>
                </td>
                <td>{{ check.wrong.length ? `${check.wrong.length} wrong` : 'holds' }}</td>
              </tr>
            </tbody>
          </table>
        </section>
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
.all {
  margin: 10px 0 24px;
}
.checks {
  max-width: 760px;
}
.checks td {
  vertical-align: top;
}
.wrong {
  background: var(--brick-wash);
}
.told {
  margin: 2px 0;
  color: var(--brick);
}
.cut {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
