<script setup lang="ts">
import { computed } from 'vue'
import { amount } from './format'

/** From one amount to another, each step drawn from where the one before ended. */
export interface Step {
  label: string
  amount: string
  /** An end, drawn from zero; otherwise what is added. */
  whole: boolean
  /** Where it leads. */
  to?: string
}
const props = defineProps<{ steps: Step[] }>()
const drawn = computed(() => {
  let at = 0
  const list = props.steps.map((step) => {
    const from = step.whole ? 0 : at
    at = from + Number(step.amount)
    return { ...step, from, end: at }
  })
  const ends = list.flatMap((s) => [s.from, s.end])
  const [low, high] = [Math.min(0, ...ends), Math.max(0, ...ends)]
  const width = high - low || 1
  return list.map((s) => ({
    ...s,
    left: ((Math.min(s.from, s.end) - low) / width) * 100,
    width: (Math.abs(s.end - s.from) / width) * 100,
  }))
})
</script>

<template>
  <div role="list">
    <div v-for="(step, index) in drawn" :key="index" class="step" role="listitem">
      <router-link v-if="step.to" :to="step.to">{{ step.label }}</router-link>
      <span v-else :class="{ strong: step.whole }">{{ step.label }}</span>
      <span class="track" aria-hidden="true"
        ><i
          :class="{ whole: step.whole, down: !step.whole && step.end < step.from }"
          :style="{ left: `${step.left}%`, width: `${step.width}%` }"
        ></i
      ></span>
      <span class="amount" :class="{ strong: step.whole }"
        >{{ !step.whole && !step.amount.startsWith('-') ? '+' : '' }}{{ amount(step.amount) || '0' }}</span
      >
    </div>
  </div>
</template>

<style scoped>
.step {
  display: grid;
  grid-template-columns: var(--step-label, 150px) minmax(0, 1fr) 96px;
  gap: 10px;
  align-items: center;
  min-height: 28px;
  border-bottom: 1px solid var(--hairline);
}
.track {
  position: relative;
  height: 14px;
}
.track i {
  position: absolute;
  top: 0;
  bottom: 0;
  min-width: 2px;
  background: var(--bronze);
}
.track i.down {
  background: var(--verdigris);
}
.track i.whole {
  background: var(--secondary);
}
.strong {
  font-weight: 600;
}
</style>
