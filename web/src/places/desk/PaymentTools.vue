<script setup lang="ts">
import { ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { day, plural } from '../../shared/format'

/** Payments of many returns: a file for the bank, and the bank's statement matched by reference. */
const props = defineProps<{ chosen: number[] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const typed = ref({ account: '', on: day(session.view?.today) })
const report = ref<Schemas['MatchReport'] | null>(null)
const made = ref('')

const file = () =>
  act(async () => {
    const answer = await api.POST('/api/payments/file', {
      body: { returns: props.chosen, on: typed.value.on, account: typed.value.account },
      parseAs: 'blob',
    })
    const content = await call(
      Promise.resolve(answer as unknown as { data?: Blob; error?: unknown; response: Response }),
    )
    const address = URL.createObjectURL(content)
    Object.assign(document.createElement('a'), { href: address, download: 'payments.xml' }).click()
    URL.revokeObjectURL(address)
    made.value = 'The file is made; give it to the bank, and note the payments from its statement.'
  })
function match(event: Event) {
  const input = event.target as HTMLInputElement
  const statement = input.files?.[0]
  if (!statement) return
  void act(async () => {
    report.value = await call(api.POST('/api/payments/match', fileBody(statement)))
    emit('changed')
  }).finally(() => (input.value = ''))
}
</script>

<template>
  <section class="payments" aria-label="Payments">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div class="tools">
      <form v-if="session.mayApprove" @submit.prevent="file">
        <label
          >Pay {{ plural(chosen.length, 'selected return') }} from account
          <input v-model="typed.account" type="text" aria-label="Account debited"
        /></label>
        <span>on <DateField v-model="typed.on" plain label="Day of payment" /></span>
        <button class="link" type="submit" :disabled="busy || !chosen.length || !typed.account">
          Make the file (ISO 20022)
        </button>
      </form>
      <label v-if="session.mayPrepare" class="statement"
        >Bank statement:
        <input type="file" accept=".csv,.xlsx,.txt" aria-label="Bank statement" :disabled="busy" @change="match"
      /></label>
    </div>
    <p v-if="made" class="small secondary" role="status">{{ made }}</p>
    <div v-if="report" class="small" role="status">
      {{ plural(report.rows, 'row') }}: {{ plural(report.matched, 'payment') }} recorded, {{ report.known }} known
      before.
      <ul v-if="report.remarks.length">
        <li v-for="remark in report.remarks" :key="remark.row">
          Row {{ remark.row }}<template v-if="remark.value">, {{ remark.value }}</template
          >: {{ remark.message }}
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.payments {
  padding: 6px 18px;
  border-bottom: 1px solid var(--hairline);
}
.tools,
form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 22px;
  align-items: center;
}
form input {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
  width: 150px;
}
.statement {
  margin-left: auto;
}
p {
  margin: 4px 0;
}
</style>
