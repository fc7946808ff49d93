<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, moment } from '../../shared/format'
import { useSession } from '../../session'
import TopBar from '../../bar/TopBar.vue'

const WATCH_MS = 400

const acts = ref<Schemas['ActRecord'][]>([])
const chain = ref<Schemas['ChainView'] | null>(null)
const verification = ref<Schemas['VerificationRun'] | null>(null)
const session = useSession()
const { problem, act: run, busy } = useAct()
const checks = computed(() => verification.value?.checks ?? verification.value?.progress?.checks ?? [])
let watch: ReturnType<typeof setTimeout> | undefined

/** The verification under way or the last one; asked for again while it runs. */
async function follow() {
  clearTimeout(watch)
  verification.value = (await call(api.GET('/api/acts/verification/run'))).run ?? null
  if (verification.value?.running) watch = setTimeout(() => void run(follow), WATCH_MS)
}
onUnmounted(() => clearTimeout(watch))
const verifyAll = () =>
  run(async () => {
    verification.value = await call(api.POST('/api/acts/verification'))
    await follow()
  })
const stop = () =>
  run(async () => {
    await call(api.POST('/api/acts/verification/stop'))
    await follow()
  })
const verify = () =>
  run(async () => {
    chain.value = null
    chain.value = await call(api.GET('/api/acts/verification'))
  })
onMounted(async () => {
  await run(async () => (acts.value = await call(api.GET('/api/acts'))))
  await verify()
  if (session.mayManage) await run(follow)
})
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll acts">
      <h1>Ledger of acts</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <template v-if="acts.length">
        <p v-if="!chain" class="secondary" role="status">Checking the chain of acts ...</p>
        <p v-else-if="chain.firstBroken == null" class="secondary" role="status">
          <template v-if="chain.atEnd">
            The chain is unbroken up to the last act, {{ amount(String(chain.acts)) }} acts.
          </template>
          <template v-else>
            The chain is unbroken up to act {{ chain.followedTo }} of {{ chain.acts }}; the rest is checked next.
          </template>
          <template v-if="chain.wholeAt"> Checked in full, from the first act, {{ moment(chain.wholeAt) }}. </template>
          <button class="link" @click="verify">{{ chain.atEnd ? 'Verify again' : 'Continue' }}</button>
        </p>
        <p v-else class="banner bad" role="alert">
          The chain breaks at act {{ chain.firstBroken }}: it, or one before it, was altered outside the application.
        </p>
        <section v-if="session.mayManage" class="all" aria-label="Verification">
          <p>
            <template v-if="verification?.running">
              <span class="secondary" role="status"
                >Verifying:
                <template v-if="verification.progress"
                  >{{ verification.progress.what }}, {{ amount(String(verification.progress.done)) }} of
                  {{ amount(String(verification.progress.total)) }}</template
                ></span
              >
              <button class="link stop" @click="stop">Stop</button>
            </template>
            <template v-else>
              <button class="link" :disabled="busy" @click="verifyAll">Verify every figure, file and act</button>
              <span v-if="verification" class="secondary" role="status">
                {{
                  verification.stopped
                    ? 'Stopped before the end'
                    : verification.checks
                      ? 'Verified'
                      : 'It stopped unexpectedly; see the log of the server'
                }}, begun by {{ verification.by }} {{ moment(verification.startedAt) }}
              </span>
            </template>
          </p>
          <table v-if="checks.length" class="plain checks">
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
.stop,
.all .link + .secondary {
  margin-left: 12px;
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
