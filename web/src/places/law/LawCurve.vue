<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { amount } from '../../shared/format'

/** What a schedule takes of the next unit and on average, over the amounts it is applied to; another year's beside it. */
const props = defineProps<{
  curve: Schemas['LawPoint'][]
  before: Schemas['LawPoint'][]
  year: number
  beside: number | null
}>()
const WIDTH = 320
const HEIGHT = 120
const end = computed(() => props.curve.at(-1)!.at)
const most = computed(() => Math.max(...[...props.curve, ...props.before].map((p) => p.ofNext), 1))
const x = (at: number) => (at / end.value) * WIDTH
const y = (percent: number) => HEIGHT - (percent / most.value) * (HEIGHT - 8)
const steps = (curve: Schemas['LawPoint'][]) =>
  curve.map((p, i) => `${i ? `H${x(p.at)} V` : `M${x(p.at)} `}${y(p.ofNext)}`).join(' ')
const line = (curve: Schemas['LawPoint'][]) =>
  curve.map((p, i) => `${i ? 'L' : 'M'}${x(p.at)} ${y(p.onAverage)}`).join(' ')
const words = computed(
  () =>
    `Of the next unit up to ${most.value}%, on average ${props.curve.at(-1)!.onAverage}% at ${amount(String(props.curve.at(-1)!.at))}`,
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT + 16}`" role="img" :aria-label="words">
      <path v-if="before.length" :d="steps(before)" class="next before" />
      <path v-if="before.length" :d="line(before)" class="average before" />
      <path :d="steps(curve)" class="next" />
      <path :d="line(curve)" class="average" />
      <line x1="0" :x2="WIDTH" :y1="HEIGHT" :y2="HEIGHT" class="axis" />
      <text x="0" :y="HEIGHT + 13">0</text>
      <text :x="WIDTH" :y="HEIGHT + 13" text-anchor="end">{{ amount(String(end)) }}</text>
      <text x="2" y="9">{{ most }}%</text>
    </svg>
    <figcaption class="small secondary">
      <span class="of-next">of the next</span>, <span class="on-average">on average</span
      ><template v-if="before.length">; {{ beside }} dashed</template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 12px 0;
}
path {
  fill: none;
  stroke-width: 1.6;
}
.next {
  stroke: var(--verdigris);
}
.average {
  stroke: var(--ochre);
}
.before {
  stroke-dasharray: 3 3;
  stroke-width: 1;
}
.axis {
  stroke: var(--hairline);
}
text {
  font-size: 9px;
  fill: var(--secondary);
}
.of-next {
  color: var(--verdigris);
}
.on-average {
  color: var(--ochre);
}
</style>
