<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { amount, given, month } from '../../shared/format'

/** A claim way by way: the figures it turns on, the months where a span is chosen, and what each way gives everybody. */
const props = defineProps<{ claim: Schemas['SharedClaimView']; filing: Schemas['HouseholdMemberView'][] }>()
const tallest = computed(() => Math.max(1, ...props.claim.months.map((m) => Number(m.amount))))
const counted = computed(() => props.claim.months.filter((m) => m.counts))
</script>

<template>
  <aside class="margin" aria-label="The claim, way by way">
    <h2>{{ claim.title }}</h2>
    <p v-if="claim.closed" class="small secondary">{{ claim.closed }}</p>
    <table v-if="claim.facts.length" class="plain facts">
      <tbody>
        <tr v-for="fact in claim.facts" :key="fact.label" :class="{ stressed: fact.stressed }">
          <td>{{ fact.label }}</td>
          <td class="amount">{{ amount(fact.amount) }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="counted.length">
      <h3>The twelve months</h3>
      <p class="small secondary">receipts by month; the span that gives most</p>
      <figure class="chart" :aria-label="`Receipts by month; ${counted[0]!.month} to ${counted.at(-1)!.month} count`">
        <span
          v-for="one in claim.months"
          :key="one.month"
          class="bar"
          :class="{ counts: one.counts }"
          :style="{ height: `${Math.max(2, (Math.max(0, Number(one.amount)) / tallest) * 66)}px` }"
          :title="`${month(one.month)}: ${amount(one.amount)}`"
        ></span>
      </figure>
      <p class="axis small faint">
        <span>{{ month(claim.months[0]!.month) }}</span><span>{{ month(claim.months.at(-1)!.month) }}</span>
      </p>
    </template>
    <template v-if="claim.options.length">
      <p class="small secondary">Each way taken alone, and the balance it gives everybody:</p>
      <table class="plain ways">
        <tbody v-for="option in claim.options" :key="option.label">
          <tr>
            <td>
              <strong v-if="option.label === claim.best">{{ option.label }}</strong><template v-else>{{
                option.label
              }}</template>
            </td>
            <td class="amount">
              {{
                option.saves === '0'
                  ? 'the same'
                  : option.saves.startsWith('-')
                    ? `costs ${amount(option.saves.slice(1))}`
                    : `saves ${amount(option.saves)}`
              }}
            </td>
          </tr>
          <tr class="small secondary">
            <td colspan="2">
              <template v-for="(one, at) in option.balances" :key="at"
                >{{ at ? ', ' : '' }}{{ given(filing[at]?.name ?? '') }} {{ amount(one) }}</template
              ><template v-if="option.keeps && option.keeps !== '0'"
                >; {{ amount(option.keeps) }} kept for later years</template
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="claim.needs" class="small secondary">{{ claim.needs }}</p>
    </template>
  </aside>
</template>

<style scoped>
.margin {
  width: 290px;
  flex: none;
  overflow: auto;
  padding: 14px 18px;
  border-left: 1px solid var(--hairline);
}
.facts,
.ways {
  width: 100%;
}
.facts {
  margin-top: 8px;
}
.stressed td {
  font-weight: 600;
}
.ways tbody tr:first-child td {
  border-bottom: 0;
}
h3 {
  margin: 14px 0 0;
}
h3 + p {
  margin: 0 0 6px;
}
.chart {
  display: flex;
  align-items: flex-end;
  gap: 2px;
  height: 70px;
  margin: 0;
  border-bottom: 1px solid var(--ink);
}
.bar {
  flex: 1;
  background: var(--hairline);
}
.bar.counts {
  background: var(--verdigris);
  box-shadow:
    0 3px 0 0 var(--page),
    0 5px 0 0 var(--verdigris);
}
.axis {
  display: flex;
  justify-content: space-between;
  margin: 6px 0 10px;
}
</style>
