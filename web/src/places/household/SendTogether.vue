<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { given, plural } from '../../shared/format'

/** The returns of a household sent to the authority one after the other, each with its own acknowledgement. */
const props = defineProps<{ members: Schemas['HouseholdMemberView'][] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const refused = ref<Record<number, string>>({})
const confirming = ref(false)
const approved = computed(() => props.members.filter((m) => m.stageKey === 'approved'))
const waiting = computed(() => props.members.some((m) => m.stageKey === 'sent'))
let timer: number | undefined

/** Runs an act over returns to its end, one after the other. */
async function over(name: string, returns: number[]) {
  const started = await call(api.POST('/api/batches', { body: { act: name, argument: null, returns, list: null } }))
  const ask = () => call(api.GET('/api/batches/{batch}', { params: { path: { batch: started.id } } }))
  let results = await ask()
  while (results.batch.state === 'running') {
    await new Promise((resolve) => (timer = window.setTimeout(resolve, 300)))
    results = await ask()
  }
  for (const item of results.refused) refused.value[Number(item.returnId)] = item.result ?? 'It was refused.'
}
const send = (members: Schemas['HouseholdMemberView'][]) =>
  act(async () => {
    confirming.value = false
    refused.value = {}
    const returns = members.map((m) => Number(m.returnId))
    await over('build', returns)
    await over(
      'send',
      returns.filter((r) => !refused.value[r]),
    )
    follow()
  })
/** Asks until the authority has answered all that were sent. */
function follow() {
  emit('changed')
  window.clearTimeout(timer)
  timer = window.setTimeout(() => waiting.value && follow(), 1_000)
}
onBeforeUnmount(() => window.clearTimeout(timer))
const next = (member: Schemas['HouseholdMemberView']) =>
  member.stageKey === 'open' || member.stageKey === 'rejected'
    ? 'review'
    : member.stageKey === 'waiting'
      ? 'approve'
      : 'send'
</script>

<template>
  <section aria-label="Send together">
    <div class="rule-head">
      <h2>Send together</h2>
      <span class="small secondary">each return is its own sending with its own acknowledgement</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <table class="plain">
      <thead>
        <tr>
          <th>Member</th>
          <th>Return</th>
          <th>Acknowledgement</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="member in members" :key="member.name">
          <td>{{ member.name }}</td>
          <td>
            <router-link :to="`/returns/${member.returnId}/${next(member)}`">{{ member.stage }}</router-link>
            <span v-if="refused[Number(member.returnId)]" class="small refused">{{
              refused[Number(member.returnId)]
            }}</span>
          </td>
          <td>{{ member.acknowledgement ?? '–' }}</td>
          <td>
            <button
              v-if="member.stageKey === 'approved' && session.mayApprove"
              class="link"
              :disabled="busy"
              @click="send([member])"
            >
              Send {{ given(member.name) }}’s alone
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="!approved.length" class="small secondary">
      Approved returns can be sent from here; none of the household is approved and unsent.
    </p>
    <p v-else-if="!session.mayApprove" class="small secondary">
      {{ plural(approved.length, 'return') }} approved; an approver sends {{ approved.length === 1 ? 'it' : 'them' }}.
    </p>
    <template v-else-if="approved.length > 1">
      <v-btn v-if="!confirming" :disabled="busy" @click="confirming = true">
        Send {{ plural(approved.length, 'return') }} together
      </v-btn>
      <p v-else>
        {{ approved.map((m) => given(m.name)).join(', ') }}: send now, one after the other? A return cannot be called
        back.
        <v-btn :disabled="busy" @click="send(approved)">Send them</v-btn>
        <button class="link" @click="confirming = false">Cancel</button>
      </p>
    </template>
    <p v-if="waiting" class="small secondary" role="status">Waiting for the authority’s answer.</p>
  </section>
</template>

<style scoped>
table {
  width: 100%;
  margin-bottom: 16px;
}
.refused {
  display: block;
  color: var(--brick);
}
p .v-btn {
  margin: 0 8px;
}
</style>
