<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { amount, fromCents, given, toCents } from '../../shared/format'

/** What the next income of each member costs the household: tax at the rates, and what is lost or repaid beside it. */
const props = defineProps<{ view: Schemas['HouseholdView'] }>()
const step = computed(() => props.view.nextIncome[0]?.step ?? '1000')
const tallest = computed(() => Math.max(Number(step.value) / 2, ...props.view.nextIncome.map((i) => Number(i.cost))))
/** Taxes, and what is left: credits that would have been paid out. */
const pieces = (income: Schemas['HouseholdIncomeView']) => {
  const taxes = income.parts.reduce((sum, part) => sum + toCents(part.amount), 0n)
  const rest = fromCents(toCents(income.cost) - taxes)
  return [...income.parts, { label: 'Credits paid out', amount: rest }].filter((p) => p.amount !== '0')
}
const labels = computed(() => [...new Set(props.view.nextIncome.flatMap((i) => pieces(i).map((p) => p.label)))])
const moved = (movement: string) =>
  movement.startsWith('-') ? `${amount(movement.slice(1))} less` : `${amount(movement)} more`
</script>

<template>
  <section aria-label="Next income">
    <div class="rule-head">
      <h2>What the next {{ amount(step) }} of income costs the household</h2>
      <span class="small secondary">all returns computed with it</span>
    </div>
    <p v-if="!view.nextIncome.length" class="secondary">
      No return has income yet to which more could be added. Enter a slip first.
    </p>
    <template v-else>
      <figure class="chart" :aria-label="`Cost of a further ${amount(step)} of income, member by member`">
        <div v-for="income in view.nextIncome" :key="income.member" class="column">
          <strong>{{ amount(income.cost) }}</strong>
          <div class="stack">
            <span
              v-for="piece in pieces(income).filter((p) => Number(p.amount) > 0)"
              :key="piece.label"
              :class="`piece piece-${labels.indexOf(piece.label) % 5}`"
              :style="{ height: `${(Number(piece.amount) / tallest) * 150}px` }"
              :title="`${piece.label}: ${amount(piece.amount)}`"
            ></span>
          </div>
          <span class="name">{{ given(income.member) }}</span>
        </div>
      </figure>
      <p class="legend small">
        <span v-for="(label, at) in labels" :key="label"
          ><span :class="`swatch piece-${at % 5}`" aria-hidden="true"></span>{{ label }}</span
        >
      </p>
      <table class="plain" aria-label="What makes up the cost">
        <thead>
          <tr>
            <th>Income of</th>
            <th>On the line</th>
            <th class="amount">Costs</th>
            <th>Made of</th>
            <th>Tapered, lost or repaid</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="income in view.nextIncome" :key="income.member">
            <td>{{ given(income.member) }}</td>
            <td>{{ income.line }}</td>
            <td class="amount">{{ amount(income.cost) }}</td>
            <td>
              <div v-for="piece in pieces(income)" :key="piece.label" class="small">
                {{ piece.label }} {{ amount(piece.amount) }}
              </div>
            </td>
            <td>
              <div v-for="one in income.moved" :key="one.member + one.line" class="small">
                <router-link :to="`/returns/${one.returnId}/fill/${one.form}?line=${one.line}`">{{
                  one.label
                }}</router-link><template v-if="one.member !== income.member"> of {{ given(one.member) }}</template
                >:
                {{ moved(one.movement) }}
              </div>
              <span v-if="!income.moved.length" class="small secondary">nothing</span>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.chart {
  display: flex;
  align-items: flex-end;
  gap: 40px;
  margin: 16px 0 4px;
}
.column {
  display: grid;
  justify-items: center;
  width: 90px;
}
.stack {
  display: flex;
  flex-direction: column-reverse;
  width: 46px;
  border-bottom: 1px solid var(--ink);
}
.piece {
  display: block;
}
.piece-0 {
  background: var(--verdigris);
}
.piece-1 {
  background: var(--bronze);
}
.piece-2 {
  background: var(--slate);
}
.piece-3 {
  background: var(--secondary);
}
.piece-4 {
  background: var(--entry);
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 18px;
  margin: 6px 0 20px;
}
.swatch {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 5px;
}
table {
  width: 100%;
}
td {
  vertical-align: top;
}
</style>
