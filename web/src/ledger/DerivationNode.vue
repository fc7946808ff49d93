<script setup lang="ts">
import { computed, inject } from 'vue'
import type { Schemas } from '../api/client'
import type { ReturnStore } from '../return/returnStore'
import { amount, lineText, onTheWay } from '../shared/format'
import LawMark from './LawMark.vue'

const props = defineProps<{ node: Schemas['DerivationNode'] }>()
const emit = defineEmits<{ follow: [line: string, row: string | null] }>()
const store = inject<ReturnStore>('return')!

const lawQuery = computed(() => {
  const { definition, year, period } = store.view.value
  return { return: definition, year, period, ...(props.node.figure ? { figure: props.node.figure } : {}) }
})
const parts = computed(() => props.node.operands ?? [])
const bands = computed(() => props.node.bands ?? [])
const heading = computed(() => {
  switch (props.node.kind) {
    case 'least':
      return 'the least of'
    case 'greatest':
      return parts.value.length === 2 && parts.value[0]?.kind === 'constant' && parts.value[0].value === '0'
        ? 'not below zero'
        : 'the greatest of'
    case 'sum':
      return parts.value.some((o) => o.subtracted) ? 'added and subtracted' : 'the sum of'
    case 'product':
      return 'multiplied'
    case 'quotient':
      return 'divided'
    case 'rounded':
      return `rounded ${props.node.words}`
    case 'bands':
      return props.node.words
    case 'line':
    case 'parameter':
    case 'constant':
      return ''
    default:
      return props.node.words
  }
})
const line = computed(() => (props.node.line ? store.lineOf(props.node.line) : undefined))
const shown = computed(() => onTheWay(lineText(line.value, props.node.value)))
const operands = computed(() =>
  parts.value.filter(
    (o) => !(props.node.kind === 'greatest' && o.kind === 'constant' && o.value === '0' && !o.decides),
  ),
)
</script>

<template>
  <div class="node" :class="[node.kind, { decides: node.decides }]">
    <div v-if="node.kind === 'line' && node.line" class="operand">
      <button class="link follow" @click="emit('follow', node.line, node.row ?? null)">
        <span v-if="node.subtracted" aria-label="less">- </span><span>{{ line?.number }}</span>
        <span class="words">{{ node.words }}</span>
      </button>
      <span class="amount">{{ shown }}</span>
    </div>
    <div v-else-if="!operands.length && !bands.length" class="operand">
      <span>
        <span v-if="node.subtracted">- </span>{{ node.words }}
        <span v-if="node.source" class="source faint small"
          ><router-link
            :to="{
              path: '/law',
              query: { ...lawQuery, find: node.words },
            }"
            title="This figure in the Law"
            >{{ node.source }}</router-link
          ><span v-if="node.confidence && node.confidence !== 'certain'" class="unsure">, {{ node.confidence }}</span
          ><LawMark :figure="node.figure" />
        </span>
        <span v-if="node.note" class="source faint small">{{ node.note }}</span>
      </span>
      <span class="amount">{{ shown }}</span>
    </div>
    <template v-else>
      <div class="operand heading">
        <span class="secondary">{{ heading || node.words }}</span>
        <span class="amount secondary">{{ shown }}</span>
      </div>
      <table v-if="bands.length" class="bands">
        <thead>
          <tr>
            <th>from</th>
            <th>to</th>
            <th>rate</th>
            <th>tax</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="band in bands" :key="band.from" :class="{ unused: band.amount === '0' }">
            <td>{{ amount(band.from) }}</td>
            <td>{{ band.to ? amount(band.to) : 'over' }}</td>
            <td>{{ band.rate }}</td>
            <td>{{ amount(band.tax) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="node.source" class="source faint small">
        <router-link :to="{ path: '/law', query: { ...lawQuery, find: node.words } }" title="This figure in the Law">{{
          node.source
        }}</router-link><span v-if="node.confidence && node.confidence !== 'certain'" class="unsure"
          >, {{ node.confidence }}</span
        ><LawMark :figure="node.figure" />
      </p>
      <div class="operands">
        <DerivationNode
          v-for="(operand, index) in operands"
          :key="index"
          :node="operand"
          @follow="(line, row) => emit('follow', line, row)"
        />
      </div>
    </template>
  </div>
</template>

<style scoped>
.operand {
  display: grid;
  grid-template-columns: minmax(0, 1fr) fit-content(45%);
  gap: 10px;
  padding: 2px 0;
}
.operand .amount {
  white-space: normal;
}
.follow {
  color: var(--ink);
  font-weight: 400;
}
.follow span:not(.words):not([aria-label]) {
  color: var(--verdigris);
  font-weight: 500;
}
.words {
  margin-left: 6px;
}
.operands {
  border-left: 2px solid var(--hairline);
  padding-left: 10px;
}
.decides > .operand {
  font-weight: 600;
}
.decides > .operand .amount {
  color: var(--verdigris);
}
.source {
  display: block;
  margin: 0;
}
.unsure {
  color: var(--ochre);
}
.bands {
  width: 100%;
  border-collapse: collapse;
  font-size: 12.5px;
  margin: 4px 0;
}
.bands th {
  font-weight: 500;
  color: var(--secondary);
  text-align: right;
  border-bottom: 1px solid var(--hairline);
}
.bands td {
  text-align: right;
  padding: 2px 0;
}
.bands .unused {
  color: var(--faint);
}
</style>
