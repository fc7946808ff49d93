<script setup lang="ts">
import { computed, inject } from 'vue'
import { useRouter } from 'vue-router'
import { api, call } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import AssessmentPanel from './AssessmentPanel.vue'
import RefundPanel from './RefundPanel.vue'
import PaymentsPanel from './PaymentsPanel.vue'
import type { ReturnStore } from '../../return/returnStore'

const store = inject<ReturnStore>('return')!
const router = useRouter()
const session = useSession()
const { busy, problem, act } = useAct()
const refund = computed(() => store.balance.startsWith('-'))

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
        <section>
          <div class="rule-head"><h2>Payment or refund</h2></div>
          <RefundPanel v-if="refund" />
          <PaymentsPanel v-else />
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
