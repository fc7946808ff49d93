<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { amount } from '../../shared/format'
import type { Line, ReturnStore } from '../../return/returnStore'

/** A computed figure that may be overridden, with a reason: the law leaves it to somebody's judgement. */
const props = defineProps<{ line: Line }>()
const store = inject<ReturnStore>('return')!
const entered = computed(() => ({
  amount: store.valueOf(props.line.override!.amount, null)?.value ?? '',
  reason: store.valueOf(props.line.override!.reason, null)?.value ?? '',
}))
const typed = ref({ amount: '', reason: '' })
const editing = ref(false)
watch(
  () => props.line.key,
  () => (editing.value = false),
)
function begin() {
  const { amount: amountKey, reason: reasonKey } = props.line.override!
  typed.value = { amount: store.said(amountKey, null), reason: store.said(reasonKey, null) }
  editing.value = true
}
function put(to: { amount: string; reason: string }) {
  const { amount: amountKey, reason: reasonKey } = props.line.override!
  store.setMany([
    [null, store.lineOf(amountKey)!, to.amount],
    [null, store.lineOf(reasonKey)!, to.reason],
  ])
  editing.value = false
}
</script>

<template>
  <section class="override" aria-label="Override">
    <p v-if="entered.amount">
      Overridden: {{ amount(entered.amount) }}. <span class="secondary">{{ entered.reason || 'No reason yet.' }}</span>
    </p>
    <p v-else class="secondary">{{ line.override!.judgement }}</p>
    <form v-if="editing" @submit.prevent="put(typed)">
      <input v-model="typed.amount" type="text" aria-label="Amount instead" placeholder="Amount instead" />
      <input
        v-model="typed.reason"
        type="text"
        maxlength="500"
        aria-label="Reason"
        placeholder="Reason, decision, date"
      />
      <button class="link" type="submit" :disabled="!typed.amount.trim() || !typed.reason.trim()">Override</button>
      <button class="link" type="button" @click="editing = false">Cancel</button>
    </form>
    <p v-else-if="!store.locked" class="acts">
      <button class="link" @click="begin">{{ entered.amount ? 'Change' : 'Override with a reason' }}</button>
      <button v-if="entered.amount" class="link" @click="put({ amount: '', reason: '' })">
        Restore the computed amount
      </button>
    </p>
  </section>
</template>

<style scoped>
.override {
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 12px;
  padding-bottom: 10px;
}
p {
  margin: 0 0 4px;
}
form,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
}
input {
  flex-basis: 100%;
  border: 0;
  border-bottom: 1px solid var(--faint);
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 3px 4px;
}
</style>
