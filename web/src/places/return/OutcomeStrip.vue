<script setup lang="ts">
import { computed, inject } from 'vue'
import { amount, difference } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

const store = inject<ReturnStore>('return')!
const signs: Record<string, string> = { '': '', '-': '-', '=': '=', '>': '›', '+': '+' }

const chain = computed(() =>
  store.layout.outcome.slice(0, -1).map((f) => ({ ...f, amount: store.outcome.value.get(f.line) ?? '0' })),
)
const balance = computed(() => store.balance)
const refund = computed(() => balance.value.startsWith('-'))
/** How much more there is of what is shown, to pay or refund, than at opening. */
const movement = computed(() =>
  refund.value ? difference(store.openingBalance, balance.value) : difference(balance.value, store.openingBalance),
)
</script>

<template>
  <footer class="outcome" aria-label="Outcome">
    <template v-for="figure in chain" :key="figure.line">
      <span v-if="figure.sign" class="sign faint" aria-hidden="true">{{ signs[figure.sign] }}</span>
      <router-link :to="store.placeOfLine(figure.line)" class="figure">
        <span class="small secondary">{{ figure.label }}</span>
        <span class="sum">{{ amount(figure.amount) }}</span>
      </router-link>
    </template>
    <span class="grow"></span>
    <router-link :to="store.placeOfLine(store.layout.outcome.at(-1)!.line)" class="figure balance" data-balance>
      <span class="small secondary"
        >{{ refund ? store.layout.overpaidLabel : store.layout.balanceLabel }}, {{ store.view.value.currency }}</span
      >
      <span class="sum" aria-live="polite">{{ amount(balance.replace('-', '')) }}</span>
    </router-link>
    <span class="movement small secondary">
      <template v-if="movement !== '0'"
        >{{ amount(movement.replace('-', '')) }} {{ movement.startsWith('-') ? 'less' : 'more' }} than<br />at
        opening</template
      >
      <template v-else>as at opening</template>
    </span>
  </footer>
</template>

<style scoped>
.outcome {
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 58px;
  padding: 6px 18px;
  border-top: 1px solid var(--hairline);
  background: var(--paper);
  overflow: hidden;
}
.figure {
  display: grid;
  color: var(--ink);
  font-weight: 400;
  line-height: 1.3;
  white-space: nowrap;
}
.sum {
  font-size: 15.5px;
}
.sign {
  align-self: end;
  padding-bottom: 6px;
}
.grow {
  flex: 1;
}
.balance {
  text-align: right;
}
.balance .sum {
  font-size: 21px;
  font-weight: 600;
  color: var(--bronze);
}
.movement {
  width: 104px;
  line-height: 1.35;
}
</style>
