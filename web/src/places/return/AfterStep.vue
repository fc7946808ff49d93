<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, day } from '../../shared/format'
import AssessmentPanel from './AssessmentPanel.vue'
import RefundPanel from './RefundPanel.vue'
import PaymentsPanel from './PaymentsPanel.vue'
import type { ReturnStore } from '../../return/returnStore'

const store = inject<ReturnStore>('return')!
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
/** What is to pay or to be repaid, as assessed once there is an assessment. */
const owed = ref<Schemas['PaymentsView'] | null>(null)
watch(
  () => store.statusTick.value,
  () =>
    act(async () => {
      if (store.filed)
        owed.value = await call(api.GET('/api/returns/{id}/payments', { params: { path: { id: store.id } } }))
    }),
  { immediate: true },
)
const refund = computed(() => owed.value!.balance.startsWith('-'))
const inWords = (balance: string) =>
  balance.startsWith('-') ? `a refund of ${amount(balance.slice(1))}` : `${amount(balance) || '0'} to pay`

const amend = () =>
  act(async () => {
    const { clientId, definition, year } = store.view.value
    const opened = await call(
      api.POST('/api/clients/{clientId}/returns', {
        params: { path: { clientId } },
        body: { definition, year, kind: 'amended' },
      }),
    )
    await router.push(`/returns/${opened.id}/fill`)
  })
</script>

<template>
  <div class="after scroll">
    <div class="column">
      <h1>After</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <p v-if="!store.filed" class="secondary">This part begins when the return has been sent.</p>
      <template v-else>
        <section v-if="owed">
          <div class="rule-head"><h2>Payment or refund</h2></div>
          <p v-if="owed.assessed" class="banner" role="status" data-assessed>
            The authority assessed {{ inWords(owed.balance) }} where {{ inWords(owed.assessed.filed) }} was filed
            (notice {{ owed.assessed.number
            }}{{ owed.assessed.payBy ? `; what it adds is payable by ${day(owed.assessed.payBy)}` : '' }}).
            {{ owed.assessed.objected ? 'An objection was made; these amounts hold until it is decided.' : '' }}
          </p>
          <RefundPanel v-if="refund" :key="`r${store.statusTick.value}`" />
          <PaymentsPanel v-else :key="`p${store.statusTick.value}`" />
        </section>
        <template v-if="store.stage.value === 'accepted'">
          <AssessmentPanel :key="`a${store.statusTick.value}`" />
        </template>
        <section v-if="store.stage.value === 'accepted' && session.mayPrepare">
          <div class="rule-head"><h2>Amend</h2></div>
          <p class="secondary">An amended return starts from the filed one, and Review shows what it changes.</p>
          <v-btn variant="outlined" :disabled="busy" @click="amend">Open an amended return</v-btn>
        </section>
      </template>
    </div>
  </div>
</template>

<style scoped>
.after {
  background: var(--page);
}
.column {
  max-width: 700px;
  padding: 18px 30px 40px;
}
section {
  margin-top: 20px;
}
</style>
