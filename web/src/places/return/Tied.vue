<script setup lang="ts">
import { inject } from 'vue'
import { amount } from '../../shared/format'
import { useAct } from '../../shared/act'
import type { ReturnStore, Tie } from './returnStore'

/** The returns a line is tied to, with what they say now. */
const props = defineProps<{ tie: Tie; differs: boolean }>()
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const shown = (text: string | null | undefined) =>
  /^-?\d+(\.\d+)?$/.test(text ?? '') ? amount(text) : (text ?? 'blank')
const take = () => act(() => store.takeTied(props.tie.line))
</script>

<template>
  <section class="tied" aria-label="Tied to">
    <p v-if="tie.sources.length" class="secondary">
      Follows {{ tie.sources.length === 1 ? 'this return' : 'these returns' }}, as long as nobody types over it.
    </p>
    <div v-for="source in tie.sources" :key="source.returnId + source.line" class="source">
      <router-link :to="`/returns/${source.returnId}/fill?line=${source.line}`"
        >{{ source.title }}: {{ source.label }}</router-link
      >
      <span class="amount">{{ shown(source.value) }}</span>
    </div>
    <p v-for="missing in tie.missing" :key="missing" class="faint small">There is no {{ missing }}.</p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <button v-if="differs && !store.locked" class="link" :disabled="busy" @click="take">
      Take {{ shown(tie.value) }} from there
    </button>
  </section>
</template>

<style scoped>
.tied {
  margin-bottom: 10px;
}
.source {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--hairline);
}
p {
  margin: 0 0 4px;
}
</style>
