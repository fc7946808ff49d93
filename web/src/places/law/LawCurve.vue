<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { amount } from '../../shared/format'

/** What a schedule takes of the next unit and on average, over the amounts it is applied to; another year's beside it, and the shape of another country's over it. */
const props = defineProps<{
  curve: Schemas['LawPoint'][]
  before: Schemas['LawPoint'][]
  year: number
  beside: number | null
  /** The schedule of another return over its own amounts, which are stretched to the same width. */
  other?: { title: string; curve: Schemas['LawPoint'][] } | null
}>()
const WIDTH = 320
const HEIGHT = 120
const end = computed(() => props.curve.at(-1)!.at)
const most = computed(() =>
  Math.max(...[...props.curve, ...props.before, ...(props.other?.curve ?? [])].map((p) => p.ofNext), 1),
)
const endOfOther = computed(() => props.other?.curve.at(-1)?.at ?? 1)
const y = (percent: number) => HEIGHT - (percent / most.value) * (HEIGHT - 8)
const steps = (curve: Schemas['LawPoint'][], width = end.value) =>
  curve.map((p, i) => `${i ? `H${(p.at / width) * WIDTH} V` : `M${(p.at / width) * WIDTH} `}${y(p.ofNext)}`).join(' ')
const line = (curve: Schemas['LawPoint'][], width = end.value) =>
  curve.map((p, i) => `${i ? 'L' : 'M'}${(p.at / width) * WIDTH} ${y(p.onAverage)}`).join(' ')
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
      <path v-if="other" :d="steps(other.curve, endOfOther)" class="next other" />
      <path v-if="other" :d="line(other.curve, endOfOther)" class="average other" />
      <path :d="steps(curve)" class="next" />
      <path :d="line(curve)" class="average" />
      <line x1="0" :x2="WIDTH" :y1="HEIGHT" :y2="HEIGHT" class="axis" />
      <text x="0" :y="HEIGHT + 13">0</text>
      <text :x="WIDTH" :y="HEIGHT + 13" text-anchor="end">{{ amount(String(end)) }}</text>
      <text x="2" y="9">{{ most }}%</text>
    </svg>
    <figcaption class="small secondary">
      <span class="of-next">of the next</span>, <span class="on-average">on average</span
      ><template v-if="before.length">; {{ beside }} dashed</template
      ><template v-if="other"
        >; dotted: {{ other.title }}, over its own amounts up to {{ amount(String(endOfOther)) }}</template
      >
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
.other {
  stroke-dasharray: 1 3;
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
