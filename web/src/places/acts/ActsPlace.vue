<script setup lang="ts">
import { computed, onMounted, onUnmounted, reactive, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { amount, moment } from '../../shared/format'
import { useSession } from '../../session'
import TopBar from '../../bar/TopBar.vue'

const WATCH_MS = 400

const PAGE = 500
const acts = ref<Schemas['ActView'][]>([])
const choices = ref<Schemas['ActChoices'] | null>(null)
const filter = reactive({ client: '', person: '', kind: '', from: '', to: '' })
const returnId = ref<{ id: number; words: string } | null>(null)
interface Asked {
  Client?: string
  Person?: string
  Kind?: string
  From?: string
  To?: string
  ReturnId?: number
}
/** What is asked for: only what was filled in. */
const asked = (): Asked => ({
  ...(filter.client && { Client: filter.client }),
  ...(filter.person && { Person: filter.person }),
  ...(filter.kind && { Kind: filter.kind }),
  ...(filter.from && { From: filter.from }),
  ...(filter.to && { To: filter.to }),
  ...(returnId.value && { ReturnId: returnId.value.id }),
})
const find = () => run(async () => (acts.value = await call(api.GET('/api/acts', { params: { query: asked() } }))))
const more = () =>
  run(async () => {
    const query = { ...asked(), Before: acts.value.at(-1)!.id }
    acts.value = [...acts.value, ...(await call(api.GET('/api/acts', { params: { query } })))]
  })
const exportAddress = computed(
  () =>
    `/api/acts/export.csv?${new URLSearchParams(Object.entries(asked()).map(([key, value]) => [key, String(value)]))}`,
)
let typing: number | undefined
watch([filter, returnId], () => {
  window.clearTimeout(typing)
  typing = window.setTimeout(() => void find(), 150)
})
const chain = ref<Schemas['ChainView'] | null>(null)
const verification = ref<Schemas['VerificationRun'] | null>(null)
const session = useSession()
const { problem, act: run, busy } = useAct()
const checks = computed(() => verification.value?.checks ?? verification.value?.progress?.checks ?? [])
let again: ReturnType<typeof setTimeout> | undefined

/** The verification under way or the last one; asked for again while it runs. */
async function follow() {
  clearTimeout(again)
  verification.value = (await call(api.GET('/api/acts/verification/run'))).run ?? null
  if (verification.value?.running) again = setTimeout(() => void run(follow), WATCH_MS)
}
onUnmounted(() => clearTimeout(again))
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
  await find()
  await run(async () => (choices.value = await call(api.GET('/api/acts/choices'))))
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
      <template v-if="choices">
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
        <div class="filters small">
          <input v-model="filter.client" type="search" placeholder="Client" aria-label="Client" />
          <select v-model="filter.person" aria-label="Person">
            <option value="">Everybody</option>
            <option v-for="name in choices.people" :key="name">{{ name }}</option>
          </select>
          <select v-model="filter.kind" aria-label="Kind of act">
            <option value="">All acts</option>
            <option v-for="kind in choices.kinds" :key="kind.code" :value="kind.code">{{ kind.label }}</option>
          </select>
          <span>from <DateField v-model="filter.from" plain label="From the day" /></span>
          <span>to <DateField v-model="filter.to" plain label="To the day" /></span>
          <span v-if="returnId"
            >{{ returnId.words }} <button class="link" @click="returnId = null">All returns</button></span
          >
          <a class="export" :href="exportAddress" download>Export as CSV</a>
        </div>
        <table class="plain">
          <thead>
            <tr>
              <th>No.</th>
              <th>When</th>
              <th>Who</th>
              <th>Act</th>
              <th>Client</th>
              <th>Return</th>
              <th>Line</th>
              <th>Before</th>
              <th>After</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="act in acts" :key="act.id">
              <td class="faint">{{ act.id }}</td>
              <td>{{ moment(act.at) }}</td>
              <td>{{ act.personName }}</td>
              <td class="cut" :title="act.act">{{ act.act }}</td>
              <td class="cut">
                <router-link v-if="act.client" :to="`/clients/${act.clientId}`">{{ act.client }}</router-link>
              </td>
              <td class="cut">
                <button
                  v-if="act.return"
                  class="link"
                  :title="`Show the acts on ${act.return} only`"
                  @click="returnId = { id: act.returnId!, words: `${act.client}, ${act.return}` }"
                >
                  {{ act.return }}
                </button>
              </td>
              <td class="cut" :title="act.line ?? ''">{{ act.line }}</td>
              <td class="cut narrow" :title="act.before ?? ''">{{ act.before }}</td>
              <td class="cut narrow" :title="[act.after, act.origin].filter(Boolean).join(', ')">{{ act.after }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="!acts.length" class="secondary">No matching acts.</p>
        <button v-if="acts.length && acts.length % PAGE === 0" class="link" :disabled="busy" @click="more">
          Show earlier acts
        </button>
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
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  padding-bottom: 10px;
}
.filters input,
.filters select {
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: var(--page);
  color: var(--ink);
  font: inherit;
}
.export {
  margin-left: auto;
}
.acts .narrow {
  max-width: 96px;
}
.cut a,
.cut .link {
  display: block;
  line-height: 24px;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
}
td {
  white-space: nowrap;
}
.cut {
  max-width: 158px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
