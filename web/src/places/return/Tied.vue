<script setup lang="ts">
import { computed, inject } from 'vue'
import { lineText } from '../../shared/format'
import { useAct } from '../../shared/act'
import type { Line, ReturnStore, Tie } from '../../return/returnStore'

/** The returns a line is tied to, with what they say now. */
const props = defineProps<{ tie: Tie; line: Line }>()
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const shown = (text: string | null | undefined) => lineText(props.line, text)
/** Whether something else was typed over it; nothing at all is as good as zero. */
const differs = computed(() => {
  const said = shown(store.valueOf(props.line.key, null)?.value)
  return props.tie.sources.length > 0 && (shown(props.tie.value) || '0') !== (said || '0')
})
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
      <span class="amount">{{ shown(source.value) || 'blank' }}</span>
      <span
        class="small"
        :class="source.safe != null && source.safe !== (source.value ?? '0') ? 'unsafe' : 'secondary'"
        >{{
          source.paid == null ? source.stage : `${source.stage}; ${shown(source.paid) || '0'} recorded as paid`
        }}</span
      >
    </div>
    <p v-if="tie.safe != null && tie.safe !== (tie.value ?? '0')" class="small">
      Safe now: <span class="amount">{{ shown(tie.safe) || '0' }}</span>
    </p>
    <p v-for="missing in tie.missing" :key="missing" class="faint small">There is no {{ missing }}.</p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <button v-if="differs && !store.locked" class="link" :disabled="busy" @click="take">
      Take {{ shown(tie.value) || 'blank' }} from there
    </button>
  </section>
</template>

<style scoped>
.tied {
  margin-bottom: 10px;
}
.source {
  display: grid;
  grid-template-columns: minmax(0, 1fr) fit-content(45%);
  gap: 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--hairline);
}
.source .small {
  grid-column: 1 / -1;
}
.unsafe {
  color: var(--ochre);
}
.source .amount {
  white-space: normal;
}
p {
  margin: 0 0 4px;
}
</style>
