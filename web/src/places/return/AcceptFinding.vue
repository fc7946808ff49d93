<script setup lang="ts">
import { inject, nextTick, ref } from 'vue'
import { api, call } from '../../api/client'
import type { Finding, ReturnStore } from '../../return/returnStore'

const props = defineProps<{ finding: Finding }>()
const store = inject<ReturnStore>('return')!
const open = ref(false)
const reason = ref('')
const problem = ref('')
const field = ref<HTMLInputElement>()

async function begin() {
  open.value = true
  await nextTick()
  field.value?.focus()
}

async function accept() {
  problem.value = ''
  try {
    store.takeFindings(
      await call(
        api.POST('/api/returns/{id}/findings/accept', {
          params: { path: { id: store.id } },
          body: { finding: props.finding.id, row: props.finding.row, reason: reason.value },
        }),
      ),
    )
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <button v-if="!open" class="link" :disabled="store.locked" @click="begin">Accept with a reason</button>
  <form v-else class="accept" @submit.prevent="accept">
    <input
      ref="field"
      v-model="reason"
      type="text"
      maxlength="500"
      aria-label="Reason for accepting"
      placeholder="Reason"
      @keydown.esc="open = false"
    />
    <button class="link" type="submit">Accept</button>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.accept {
  display: flex;
  flex: 1 1 340px;
  flex-wrap: wrap;
  gap: 8px;
}
input {
  flex: 1;
  min-width: 120px;
  border: 0;
  border-bottom: 1px solid var(--faint);
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 2px 4px;
}
.problem {
  flex-basis: 100%;
  margin: 0;
  color: var(--brick);
}
</style>
