<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { api, call } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { moment } from '../../shared/format'
import type { ReturnStore, Spot } from '../../return/returnStore'

/** What preparer and approver say to each other about a line. */
const props = defineProps<{ spot: Spot }>()
const store = inject<ReturnStore>('return')!
const session = useSession()
const { busy, problem, act } = useAct()
const words = ref('')
const thread = computed(() => store.remarksOn(props.spot.line, props.spot.row))
const open = computed(() => thread.value.some((remark) => !remark.settledBy))
watch(
  () => `${props.spot.line}|${props.spot.row ?? ''}`,
  () => (words.value = ''),
)
const params = { path: { id: store.id } }
const say = () =>
  act(async () => {
    const body = { line: props.spot.line, row: props.spot.row, words: words.value }
    store.remarks.value = await call(api.POST('/api/returns/{id}/remarks', { params, body }))
    words.value = ''
  })
const settle = () =>
  act(async () => {
    const body = { line: props.spot.line, row: props.spot.row }
    store.remarks.value = await call(api.POST('/api/returns/{id}/remarks/settle', { params, body }))
  })
</script>

<template>
  <section aria-label="Remarks on this line">
    <p v-if="!thread.length" class="secondary">
      No remarks on this line. A remark stays open until somebody resolves it.
    </p>
    <div v-for="remark in thread" :key="remark.at" class="remark" :class="{ settled: remark.settledBy }">
      <span class="small secondary">{{ remark.person }}, {{ moment(remark.at) }}</span>
      <p>{{ remark.words }}</p>
      <span v-if="remark.settledBy" class="small faint">resolved by {{ remark.settledBy }}</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <form v-if="session.mayPrepare" @submit.prevent="say">
      <textarea
        v-model="words"
        rows="3"
        maxlength="2000"
        aria-label="Remark"
        placeholder="Remark"
        @keydown.ctrl.enter="say"
      ></textarea>
      <p class="acts">
        <button class="link" type="submit" :disabled="busy || !words.trim()">{{ open ? 'Answer' : 'Remark' }}</button>
        <button v-if="open" class="link" type="button" :disabled="busy" @click="settle">Resolve</button>
      </p>
    </form>
  </section>
</template>

<style scoped>
.remark {
  border-left: 2px solid var(--bronze);
  padding: 2px 0 2px 10px;
  margin-bottom: 10px;
}
.remark.settled {
  border-color: var(--hairline);
}
.remark p {
  margin: 2px 0;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
textarea {
  width: 100%;
  border: 1px solid var(--hairline);
  border-radius: 3px;
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 6px 8px;
  resize: vertical;
}
.acts {
  display: flex;
  gap: 18px;
  margin: 6px 0 0;
}
</style>
