<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { day, lineText, moment, plural } from '../../shared/format'
import { useAct } from '../../shared/act'
import { useSession } from '../../session'
import type { ReturnStore } from '../../return/returnStore'
import LawNote from './LawNote.vue'
import ReturnAtAGlance from './ReturnAtAGlance.vue'

const store = inject<ReturnStore>('return')!
const session = useSession()
const view = ref<Schemas['ApprovalView'] | null>(null)
const remark = ref('')
const { busy, problem, act } = useAct()
const params = { path: { id: store.id } }

const load = async () => (view.value = await call(api.GET('/api/returns/{id}/approval', { params })))
watch([() => store.statusTick.value, () => store.stage.value], load, { immediate: true })

const change = (pending: () => Promise<Schemas['ApprovalView']>) =>
  act(async () => {
    await store.queue.settled()
    view.value = await pending()
    await store.reload()
  })
const handOver = () => change(() => call(api.POST('/api/returns/{id}/approval/hand-over', { params })))
const approve = () => change(() => call(api.POST('/api/returns/{id}/approval/approve', { params })))
const link = ref('')
const askClient = () =>
  act(async () => {
    await store.queue.settled()
    const asked = await call(api.POST('/api/returns/{id}/approval/ask-client', { params }))
    link.value = `${window.location.origin}${asked.path}`
    await load()
  })
const giveBack = () =>
  change(() => call(api.POST('/api/returns/{id}/approval/give-back', { params, body: { text: remark.value } })))

const states: Record<string, string> = {
  'handed-over': 'handed over, waiting for approval',
  approved: 'approved and frozen',
  returned: 'returned with a remark',
  withdrawn: 'withdrawn',
}
const left = computed(() =>
  [
    view.value?.errors ? plural(view.value.errors, 'error') : '',
    view.value?.warnings ? plural(view.value.warnings, 'warning') : '',
  ]
    .filter(Boolean)
    .join(' and '),
)
const print = () => window.print()
const remarks = computed(() => store.openRemarks.value.length)
const said = (value: string | null | undefined, line: string) => lineText(store.lineOf(line), value) || 'blank'
</script>

<template>
  <div v-if="view" class="approve scroll">
    <div class="column">
      <div class="head">
        <h1>Approve</h1>
        <button type="button" class="link no-print" @click="print">Print this page</button>
      </div>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <ReturnAtAGlance />
      <LawNote />
      <section>
        <div class="rule-head"><h2>Declaration</h2></div>
        <table class="plain">
          <tbody>
            <tr v-for="line in view.declarations" :key="line.line">
              <td>{{ line.label }}</td>
              <td class="amount">
                <router-link v-if="!line.value" :to="store.placeOfLine(line.line)">complete it</router-link>
                <template v-else>{{ said(line.value, line.line) }}</template>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <section>
        <div class="rule-head">
          <h2>Approval</h2>
          <span class="small secondary">{{ view.state ? states[view.state] : 'not handed over yet' }}</span>
        </div>
        <table class="plain">
          <tbody>
            <tr v-if="view.handedOverBy">
              <td>Handed over</td>
              <td class="amount">{{ view.handedOverBy }}, {{ moment(view.handedOverAt) }}</td>
            </tr>
            <tr v-if="view.approvedBy">
              <td>{{ view.state === 'approved' ? 'Approved' : 'Was approved' }}</td>
              <td class="amount">{{ view.approvedBy }}, {{ moment(view.approvedAt) }}</td>
            </tr>
            <tr v-if="view.secondBy">
              <td>Second signature</td>
              <td class="amount">{{ view.secondBy }}, {{ moment(view.secondAt) }}</td>
            </tr>
            <tr v-else-if="view.needsSecond && view.stage !== 'accepted'">
              <td>Second signature</td>
              <td class="amount">another approver signs too, by the practice's rule</td>
            </tr>
            <tr v-if="view.remark">
              <td>Remark</td>
              <td class="amount remark">{{ view.remark }}</td>
            </tr>
          </tbody>
        </table>

        <div v-if="view.stage === 'open' || view.stage === 'rejected'" class="acts">
          <p v-if="left" class="secondary">
            {{ left }} left. <router-link :to="`/returns/${store.id}/review`">Go to Review</router-link>
          </p>
          <v-btn v-if="session.mayPrepare" :disabled="busy || !!left" @click="handOver">Hand over for approval</v-btn>
        </div>
        <div v-else-if="view.stage === 'waiting'" class="acts">
          <p v-if="remarks" class="secondary">
            {{ plural(remarks, 'remark') }} to be answered and settled first.
            <router-link :to="`/returns/${store.id}/review`">Go to Review</router-link>
          </p>
          <p v-if="view.whyNotMe" class="secondary">{{ view.whyNotMe }}</p>
          <template v-else>
            <v-btn :disabled="busy || !!remarks" @click="approve">{{
              view.needsSecond && !view.approvedBy ? 'Sign as the first' : 'Approve and freeze'
            }}</v-btn>
          </template>
          <form v-if="session.mayApprove" class="give-back" @submit.prevent="giveBack">
            <v-text-field v-model="remark" label="Remark" />
            <v-btn type="submit" variant="outlined" :disabled="busy || remark.trim().length < 3"
              >Return with the remark</v-btn
            >
          </form>
        </div>
        <p v-else-if="view.stage === 'approved'" class="acts">
          <router-link :to="`/returns/${store.id}/send`">Build and send</router-link>
        </p>
      </section>
      <section v-if="view.changed.length" aria-label="Changed since">
        <div class="rule-head">
          <h2>Changed since it was approved</h2>
          <span class="small secondary">{{ plural(view.changed.length, 'entry', 'entries') }}</span>
        </div>
        <table class="plain">
          <tbody>
            <tr v-for="entry in view.changed" :key="entry.line + entry.row">
              <td>
                <router-link :to="store.placeOfLine(entry.line, entry.row)">{{ entry.label }}</router-link>
              </td>
              <td class="amount">{{ said(entry.was, entry.line) }}</td>
              <td class="amount">{{ said(entry.now, entry.line) }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section v-if="view.state === 'approved' || view.client" aria-label="The client">
        <div class="rule-head">
          <h2>The client</h2>
          <span class="small secondary">{{
            view.clientMustAccept ? 'nothing is sent before the client accepts' : 'may be asked to accept the return'
          }}</span>
        </div>
        <table v-if="view.client" class="plain">
          <tbody>
            <tr>
              <td>Asked</td>
              <td class="amount">{{ view.client.askedBy }}, {{ moment(view.client.askedAt) }}</td>
            </tr>
            <tr>
              <td>Answer</td>
              <td class="amount" data-client-answer>
                {{
                  view.client.answer
                    ? `${view.client.answer} by ${view.client.name}, ${moment(view.client.answeredAt)}`
                    : `none yet; the link works until ${day(view.client.expiresAt.slice(0, 10))}`
                }}
              </td>
            </tr>
            <tr v-if="view.client.remark">
              <td>Remark</td>
              <td class="amount remark">{{ view.client.remark }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="link" class="banner link-banner" role="status">
          Send this to the client; it is shown only now: <code data-link>{{ link }}</code>
        </p>
        <p v-if="view.stage === 'approved' && session.mayPrepare && view.client?.answer !== 'accepted'" class="acts">
          <v-btn variant="outlined" :disabled="busy" @click="askClient">{{
            view.client ? 'Make a new link' : 'Ask the client to accept'
          }}</v-btn>
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.approve {
  background: var(--page);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.column {
  max-width: 760px;
  padding: 18px 30px 40px;
}
section {
  margin-top: 20px;
}
.remark {
  white-space: normal;
}
.link-banner {
  margin: 10px 0 0;
  overflow-wrap: anywhere;
}
.acts {
  padding-top: 16px;
}
.give-back {
  display: flex;
  gap: 16px;
  align-items: end;
  margin-top: 16px;
}
</style>
