<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount } from '../../shared/format'

/** What the practice asks of an approval. */
const session = useSession()
const { busy, problem, act } = useAct()
const rules = ref<Schemas['ApprovalRules'] | null>(null)
const kinds = ref<Schemas['ReturnTypeView'][]>([])
const saved = ref(false)
function show(now: Schemas['ApprovalRules']) {
  rules.value = { ...now, secondFrom: now.secondFrom ? amount(now.secondFrom) : '' }
}
onMounted(() =>
  act(async () => {
    kinds.value = await call(api.GET('/api/return-types'))
    show(await call(api.GET('/api/practice/approval-rules')))
  }),
)
const keep = () =>
  act(async () => {
    show(await call(api.PUT('/api/practice/approval-rules', { body: rules.value! })))
    saved.value = true
  })
</script>

<template>
  <section v-if="rules" aria-label="Approval">
    <div class="rule-head"><h2>Approval</h2></div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <form @submit.prevent="keep" @input="saved = false">
      <label
        ><input v-model="rules.fourEyes" type="checkbox" :disabled="!session.mayManage" /> Who prepared a return does
        not approve it</label
      >
      <label
        ><input v-model="rules.clientAccepts" type="checkbox" :disabled="!session.mayManage" /> Nothing is sent before
        the client has accepted it</label
      >
      <label
        ><input v-model="rules.lawVerified" type="checkbox" :disabled="!session.mayManage" /> Approval waits until the
        figures of the law that are not certain and change the balance are verified</label
      >
      <label
        >A second approver signs from a balance or refund of
        <input
          v-model="rules.secondFrom"
          type="text"
          class="from"
          placeholder="never"
          aria-label="Second signature from"
          :disabled="!session.mayManage"
      /></label>
      <fieldset :disabled="!session.mayManage">
        <legend>A second approver always signs</legend>
        <label v-for="kind in kinds" :key="kind.id"
          ><input v-model="rules.secondFor" type="checkbox" :value="kind.id" /> {{ kind.title }}</label
        >
      </fieldset>
      <p v-if="session.mayManage" class="acts">
        <v-btn type="submit" variant="outlined" :disabled="busy">Save these rules</v-btn>
        <span v-if="saved" class="small secondary" role="status">kept</span>
      </p>
    </form>
  </section>
</template>

<style scoped>
form {
  display: grid;
  gap: 8px;
  padding-top: 10px;
}
fieldset {
  display: grid;
  gap: 6px;
  border: 0;
  padding: 0;
}
legend {
  padding: 0 0 6px;
}
.from {
  width: 130px;
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: right;
}
.acts {
  display: flex;
  align-items: center;
  gap: 14px;
  margin: 4px 0 0;
}
</style>
