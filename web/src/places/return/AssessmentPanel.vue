<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import FileLink from '../../shared/FileLink.vue'
import { amount, day, plural } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** What the authority says after it has accepted a return: its assessment beside the return, and what it asks for. */
const store = inject<ReturnStore>('return')!
const session = useSession()
const { busy, problem, act } = useAct()
const view = ref<Schemas['AfterView'] | null>(null)
const reason = ref('')
const declaration = ref({ words: '', name: session.person?.name ?? '', capacity: 'tax agent' })
const params = { path: { id: store.id } }
onMounted(() => act(async () => (view.value = await call(api.GET('/api/returns/{id}/after', { params })))))
const take = (pending: () => Promise<Schemas['AfterView']>) => act(async () => (view.value = await pending()))
const ask = () => take(() => call(api.POST('/api/returns/{id}/after/ask', { params })))
const object = () =>
  take(() => call(api.POST('/api/returns/{id}/after/objection', { params, body: { reason: reason.value } })))
const declare = () =>
  take(() => call(api.POST('/api/returns/{id}/after/declaration', { params, body: declaration.value })))

const daysLeft = (days: number | null | undefined) =>
  days == null || days < 0 ? '' : days === 0 ? ', today' : `, ${plural(days, 'day')} left`

/** Attaches files under the kind that was asked for, and sends them. */
const send = (asked: Schemas['AskedDocument'], files: File[]) =>
  take(async () => {
    const { clientId: id, year } = store.view.value
    let latest = view.value!
    for (const file of files) {
      const query = { Name: file.name, Kind: asked.label, Year: year, ReturnId: store.id }
      const list = await call(
        api.POST('/api/clients/{id}/documents', { params: { path: { id }, query }, ...fileBody(file) }),
      )
      const document = Math.max(...list.map((d) => d.id))
      latest = await call(
        api.POST('/api/returns/{id}/after/documents', { params, body: { code: asked.code, document } }),
      )
    }
    return latest
  })
</script>

<template>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <template v-if="view">
    <section aria-label="Assessment">
      <div class="rule-head">
        <h2>Assessment</h2>
        <span v-if="view.assessment" class="small secondary"
          >{{ view.assessment.number }}, {{ day(view.assessment.issuedOn) }}</span
        >
      </div>
      <p v-if="!view.assessment" class="secondary">
        None yet; it is asked for by itself.
        <button v-if="session.mayPrepare" class="link" :disabled="busy" @click="ask">Ask now</button>
      </p>
      <p v-else-if="!view.assessment.differences.length">
        The authority assessed the return as filed: {{ plural(view.assessment.agreeing, 'figure') }} agree.
      </p>
      <template v-else>
        <table class="plain">
          <thead>
            <tr>
              <th>
                {{ plural(view.assessment.differences.length, 'figure') }} of
                {{ view.assessment.differences.length + view.assessment.agreeing }} differ
              </th>
              <th class="amount">Filed</th>
              <th class="amount">Assessed</th>
              <th class="amount">Difference</th>
            </tr>
          </thead>
          <tbody>
            <template v-for="figure in view.assessment.differences" :key="figure.label">
              <tr>
                <td>
                  <router-link v-if="figure.line" :to="store.placeOfLine(figure.line, figure.row)">{{
                    figure.label
                  }}</router-link>
                  <template v-else>{{ figure.label }}</template>
                  <span v-if="figure.reason" class="reason small secondary">{{ figure.reason }}</span>
                </td>
                <td class="amount">{{ amount(figure.filed) || '0' }}</td>
                <td class="amount">{{ amount(figure.assessed) || '0' }}</td>
                <td class="amount">{{ amount(figure.difference) }}</td>
              </tr>
            </template>
          </tbody>
        </table>
        <p v-if="view.assessment.objection" class="banner" role="status">
          Objected as {{ view.assessment.objection.number }} by {{ view.assessment.objection.madeBy }}:
          {{ view.assessment.objection.reason }}
        </p>
        <p v-if="!view.assessment.objection && view.assessment.objectBy" class="secondary" data-object-by>
          {{ (view.assessment.objectDays ?? 0) < 0 ? 'An objection was possible until' : 'Object by' }}
          {{ day(view.assessment.objectBy) }}{{ daysLeft(view.assessment.objectDays) }}.
        </p>
        <form v-if="!view.assessment.objection && session.mayApprove" class="answer" @submit.prevent="object">
          <v-text-field v-model="reason" label="Why the assessment is objected to" />
          <v-btn type="submit" variant="outlined" :disabled="busy || reason.trim().length < 10">Object</v-btn>
        </form>
        <p v-else-if="!view.assessment.objection" class="secondary">
          Object, by an approver, or open an amended return below.
        </p>
      </template>
    </section>
    <section v-if="view.verification" aria-label="Verification">
      <div class="rule-head">
        <h2>Verification</h2>
        <span class="small secondary"
          >{{ view.verification.number }},
          {{ view.verification.state === 'open' ? `answer by ${day(view.verification.dueOn)}` : 'answered' }}</span
        >
      </div>
      <table class="plain">
        <tbody>
          <tr v-for="asked in view.verification.documents" :key="asked.code">
            <td>{{ asked.label }}</td>
            <td class="small secondary">{{ asked.sent.join(', ') || 'nothing sent yet' }}</td>
            <td class="amount">
              <FileLink
                v-if="view.verification.state === 'open' && session.mayPrepare"
                :label="`Send: ${asked.label}`"
                :busy="busy"
                @chosen="(files) => send(asked, files)"
                >Send a document</FileLink
              >
            </td>
          </tr>
        </tbody>
      </table>
      <form v-if="view.verification.state === 'open' && session.mayApprove" class="declare" @submit.prevent="declare">
        <v-text-field v-model="declaration.words" label="Supplementary declaration" />
        <v-text-field v-model="declaration.name" label="Declared by" />
        <v-text-field v-model="declaration.capacity" label="Capacity" />
        <v-btn type="submit" :disabled="busy">Answer</v-btn>
      </form>
      <p v-else-if="view.verification.declaration" class="banner" role="status">
        {{ view.verification.declaration.words }} ({{ view.verification.declaration.name }},
        {{ view.verification.declaration.capacity }}; answered by {{ view.verification.answeredBy }})
      </p>
    </section>
  </template>
</template>

<style scoped>
section {
  margin-top: 20px;
}
.reason {
  display: block;
  padding-bottom: 4px;
}
.answer {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 14px;
  align-items: center;
  margin-top: 12px;
}
.declare {
  display: grid;
  grid-template-columns: 1fr 170px 130px auto;
  gap: 14px;
  align-items: center;
  margin-top: 12px;
}
</style>
