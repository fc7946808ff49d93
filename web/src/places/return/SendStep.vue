<script setup lang="ts">
import { computed, inject, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { moment, periodOf } from '../../shared/format'
import { useAct } from '../../shared/act'
import { useSession } from '../../session'
import type { ReturnStore } from '../../return/returnStore'
import MailShown from './MailShown.vue'
import ReasonsGiven from './ReasonsGiven.vue'

const store = inject<ReturnStore>('return')!
const session = useSession()
const view = ref<Schemas['SendView'] | null>(null)
const { busy, problem, act } = useAct()
const confirming = ref(false)
const shown = ref<{ name: string; text: string } | null>(null)
const params = { path: { id: store.id } }

async function load() {
  view.value = await call(api.GET('/api/returns/{id}/sending', { params }))
}
watch([() => store.statusTick.value, () => store.stage.value], load, { immediate: true })

/** While an answer is awaited the state is asked for too, in case the live connection is down. */
async function watchAnswer() {
  await load()
  if (view.value?.stage !== 'sent') await store.reload()
}
let timer: number | undefined
onMounted(() => {
  timer = window.setInterval(() => {
    if (view.value?.stage === 'sent') void watchAnswer()
  }, 2000)
})
onBeforeUnmount(() => window.clearInterval(timer))

function change(pending: () => Promise<Schemas['SendView']>) {
  confirming.value = false
  return act(async () => {
    await store.queue.settled()
    view.value = await pending()
    await store.reload()
  })
}
const build = () => change(() => call(api.POST('/api/returns/{id}/sending/build', { params })))
const check = () => change(() => call(api.POST('/api/returns/{id}/sending/check', { params })))
const send = () => change(() => call(api.POST('/api/returns/{id}/sending/send', { params })))
const chase = () => change(() => call(api.POST('/api/returns/{id}/sending/chase', { params })))

/** What goes by mail is seen before it leaves. */
const letter = ref<Schemas['MailInWords'] | null>(null)
const confirm = () =>
  act(async () => {
    letter.value =
      view.value?.channel === 'mail' ? await call(api.GET('/api/returns/{id}/sending/letter', { params })) : null
    confirming.value = true
  })

/** The e-return, or one of the files in it, to be read. */
async function show(file?: string) {
  const query = file ? `?file=${encodeURIComponent(file)}` : ''
  const text = await (await fetch(`/api/returns/${store.id}/sending/e-return${query}`)).text()
  shown.value = { name: file ?? 'E-return', text: text.replace(/></g, '>\n<') }
}

const latest = computed(() => view.value?.sendings[0])
const words: Record<string, string> = {
  queued: 'on its way',
  pending: 'received, not answered yet',
  accepted: 'accepted',
  rejected: 'rejected',
}
</script>

<template>
  <div v-if="view" class="send scroll">
    <div class="column">
      <h1>Send</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>

      <section>
        <div class="rule-head">
          <h2>E-return</h2>
          <span class="small secondary"
            >built from the frozen return, in the published schema of the {{ store.view.value.authority }}</span
          >
        </div>
        <template v-if="view.built">
          <table class="plain">
            <tbody>
              <tr>
                <td>File</td>
                <td class="amount">{{ view.built.fileName }}</td>
              </tr>
              <tr v-for="file in view.built.files" :key="file.name">
                <td>Holds {{ file.name }}</td>
                <td class="amount">
                  {{ file.bytes }} bytes
                  <button class="link beside" :aria-label="`View ${file.name}`" @click="show(file.name)">View</button>
                  <a
                    class="beside"
                    :href="`/api/returns/${store.id}/sending/e-return?file=${encodeURIComponent(file.name)}`"
                    :aria-label="`Download ${file.name}`"
                    download
                    >Download</a
                  >
                </td>
              </tr>
              <tr>
                <td>Built</td>
                <td class="amount">{{ moment(view.built.builtAt) }}, {{ view.built.bytes }} bytes</td>
              </tr>
              <tr>
                <td>SHA-256</td>
                <td class="amount hash">{{ view.built.sha256 }}</td>
              </tr>
              <tr>
                <td>Schema</td>
                <td class="amount" data-schema-result>
                  <template v-if="!view.built.current">out of date: the return changed after it was built</template>
                  <template v-else-if="view.built.faults.length"
                    >{{ view.built.faults.length }} places break it</template
                  >
                  <template v-else>valid</template>
                </td>
              </tr>
            </tbody>
          </table>
          <div v-for="fault in view.built.faults" :key="fault.message" class="banner bad fault">
            {{ fault.message }}
            <router-link v-if="fault.line" :to="store.placeOfLine(fault.line, fault.row)">Go to the line</router-link>
          </div>
          <p class="links">
            <button v-if="shown" class="link" @click="shown = null">Hide</button>
            <button v-else-if="!view.built.files.length" class="link" @click="show()">View</button>
            <a :href="`/api/returns/${store.id}/sending/e-return`" download>{{
              view.built.files.length ? 'Download all' : 'Download'
            }}</a>
            <a :href="`/api/returns/${store.id}/printed-copy.pdf`" target="_blank" rel="noopener">Printed copy</a>
          </p>
          <pre v-if="shown" tabindex="0" :aria-label="shown.name">{{ shown.text }}</pre>
        </template>
        <p v-else class="secondary">Not built yet.</p>
        <div class="acts">
          <v-btn
            v-if="view.canBuild && session.mayPrepare"
            :variant="view.canSend || view.canCheck ? 'outlined' : 'flat'"
            :disabled="busy"
            @click="build"
          >
            {{ view.built?.current ? 'Build again' : 'Build the e-return' }}
          </v-btn>
          <p
            v-else-if="view.stage === 'open' || view.stage === 'waiting' || view.stage === 'rejected'"
            class="secondary"
          >
            The e-return is built from an approved return.
            <router-link :to="`/returns/${store.id}/approve`">Go to Approve</router-link>
          </p>
        </div>
      </section>

      <section v-if="view.checkedBeforehand && view.built?.current" aria-label="Check by the authority">
        <div class="rule-head">
          <h2>Check by the authority</h2>
          <span class="small secondary">by its own rules, before anything is filed</span>
        </div>
        <p v-if="view.built.check && !view.built.check.reasons.length" role="status">
          Nothing to correct, {{ moment(view.built.check.checkedAt) }}.
        </p>
        <template v-if="view.built.check?.reasons.length">
          <p class="secondary">
            The authority would refuse this e-return. Give the return back, correct the lines, have it approved and
            build it again.
          </p>
          <ReasonsGiven :reasons="view.built.check.reasons" />
        </template>
        <div v-if="view.canCheck && session.mayPrepare" class="acts">
          <v-btn :variant="view.canSend ? 'outlined' : 'flat'" :disabled="busy" @click="check">
            {{ view.built.check ? 'Check again' : 'Have it checked' }}
          </v-btn>
        </div>
      </section>

      <section>
        <div class="rule-head">
          <h2>Sending</h2>
          <span v-if="latest" class="small state" :class="latest.state" role="status">{{
            latest.channel === 'mail' && latest.state === 'pending'
              ? 'mail sent, not answered yet'
              : words[latest.state]
          }}</span>
        </div>
        <template v-if="view.canSend">
          <p v-if="!session.mayApprove" class="secondary">An approver sends the return.</p>
          <div v-else-if="!confirming" class="acts">
            <v-btn :disabled="busy" @click="confirm">Send to the authority</v-btn>
          </div>
          <div v-else class="banner confirm">
            <span
              >This files {{ store.view.value.clientName }}'s {{ store.view.value.kind }} return for
              {{ periodOf(store.view.value) }}. This cannot be undone.</span
            >
            <v-btn :disabled="busy" @click="send">File it</v-btn>
            <button class="link" @click="confirming = false">Cancel</button>
          </div>
          <MailShown v-if="confirming && letter" :mail="letter" title="E-mail to be sent" />
        </template>
        <div v-for="(sending, index) in view.sendings" :key="sending.createdAt" class="sending">
          <table class="plain">
            <tbody>
              <tr v-if="sending.acknowledgement">
                <td>Acknowledgement number</td>
                <td class="amount ack">{{ sending.acknowledgement }}</td>
              </tr>
              <tr>
                <td>Sent</td>
                <td class="amount">{{ sending.createdBy }}, {{ moment(sending.createdAt) }}</td>
              </tr>
              <tr v-if="sending.channel === 'mail'">
                <td>By</td>
                <td class="amount">mail to the authority, file attached; the answer comes by mail</td>
              </tr>
              <tr v-if="sending.submission">
                <td>The authority's number</td>
                <td class="amount">{{ sending.submission }}</td>
              </tr>
              <tr v-if="sending.answeredAt">
                <td>Answered</td>
                <td class="amount">{{ words[sending.state] }}, {{ moment(sending.answeredAt) }}</td>
              </tr>
              <tr v-if="sending.problem">
                <td>Last attempt</td>
                <td class="amount problem">
                  {{ sending.problem }} Tried {{ sending.attempts }} times; it is tried again by itself.
                </td>
              </tr>
            </tbody>
          </table>
          <MailShown v-if="sending.letter" :mail="sending.letter" title="E-mail sent" />
          <MailShown v-if="sending.reply" :mail="sending.reply" title="The authority’s reply" />
          <ReasonsGiven :reasons="sending.reasons" />
          <p v-if="sending.silent" class="banner warn" role="status" data-silent>
            No answer has come. Resend the e-mail: it is the same e-mail, and the same filing however often it arrives.
          </p>
          <p v-if="index === 0 && (sending.state === 'queued' || sending.state === 'pending')" class="links">
            <button class="link" :disabled="busy" @click="chase">
              {{ sending.channel === 'mail' ? 'Resend the e-mail' : 'Ask for the answer now' }}
            </button>
          </p>
        </div>
        <p v-if="!view.sendings.length && !view.canSend" class="secondary">Nothing has been sent.</p>
      </section>

      <section v-if="view.hasParcel">
        <div class="rule-head">
          <h2>Parcel</h2>
          <span class="small secondary">e-return, printed copy, entries and receipt, with a manifest of hashes</span>
        </div>
        <p class="links">
          <a :href="`/api/returns/${store.id}/sending/parcel.zip`" download>Download the Parcel</a>
          <template v-if="view.hasPapers">
            <a :href="`/api/returns/${store.id}/sending/acknowledgement.pdf`" target="_blank" rel="noopener"
              >Acknowledgement (PDF)</a
            >
            <a :href="`/api/returns/${store.id}/sending/bank-set.pdf`" download>Set for the bank (PDF)</a>
          </template>
        </p>
        <p v-if="view.hasPapers" class="small secondary">
          The set for the bank holds the printed copy with the acknowledgement’s number, the acknowledgement, and the
          payment slip where something is to pay.
        </p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.beside {
  margin-left: 14px;
}
.send {
  background: var(--page);
}
.column {
  max-width: 760px;
  padding: 18px 30px 40px;
}
section {
  margin-top: 20px;
}
.hash {
  font-size: 12px;
}
.links {
  display: flex;
  gap: 20px;
  margin: 8px 0;
}
.acts {
  padding-top: 12px;
}
.confirm {
  display: flex;
  gap: 16px;
  align-items: center;
  margin-top: 12px;
}
.confirm span {
  flex: 1;
}
.fault {
  margin-top: 8px;
}
.sending {
  margin-bottom: 14px;
}
.state {
  font-weight: 600;
}
.accepted {
  color: var(--verdigris);
}
.rejected {
  color: var(--brick);
}
.queued,
.pending {
  color: var(--bronze);
}
.ack {
  font-weight: 600;
  color: var(--bronze);
}
.problem {
  color: var(--brick);
  white-space: normal;
}
pre {
  max-height: 300px;
  overflow: auto;
  background: var(--paper);
  border: 1px solid var(--hairline);
  padding: 10px;
  font-size: 12px;
}
</style>
