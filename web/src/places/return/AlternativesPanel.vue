<script setup lang="ts">
import { computed, inject, onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** Elective lines with all their choices computed side by side, and what the next income costs. */
const store = inject<ReturnStore>('return')!
const { problem, act } = useAct()
const view = ref<Schemas['AlternativesView'] | null>(null)
const shownIncome = ref(0)
const load = () =>
  act(async () => {
    view.value = await call(api.GET('/api/returns/{id}/alternatives', { params: { path: { id: store.id } } }))
  })
onMounted(load)
watch(() => store.revision.value, load)

const signed = (movement: string) => (movement.startsWith('-') ? amount(movement) : `+${amount(movement)}`)
/** The open choice that costs least: by the last figure, which counts the other taxes a choice moves. */
function least(election: Schemas['ElectionView']): string | undefined {
  const open = election.choices.filter((c) => !c.hindrances.length)
  const sorted = [...open].sort((a, b) => Number(a.figures.at(-1)!.amount) - Number(b.figures.at(-1)!.amount))
  return open.length > 1 && Number(sorted[0]!.figures.at(-1)!.amount) < Number(sorted[1]!.figures.at(-1)!.amount)
    ? sorted[0]!.code
    : undefined
}
const income = computed(() => view.value?.nextIncome[shownIncome.value])
const tallest = computed(() => Math.max(1, ...(income.value?.points ?? []).map((p) => Number(p.cost))))
const choose = (line: string, code: string) => store.set(line, null, code, store.revision.value)
</script>

<template>
  <section aria-label="Alternatives">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="view && !view.elections.length" class="secondary">
      Nothing on this return is left to the taxpayer's choice.
    </p>
    <div v-for="election in view?.elections ?? []" :key="election.line" class="election" :data-election="election.line">
      <div class="rule-head">
        <h2>{{ election.label }}</h2>
        <span class="faint small">{{ election.law }}</span>
      </div>
      <p v-if="election.bound" class="small secondary binds" data-bound>{{ election.bound }}</p>
      <p v-else-if="election.binds" class="small secondary binds">{{ election.binds }}</p>
      <table class="plain">
        <thead>
          <tr>
            <th></th>
            <th
              v-for="choice in election.choices"
              :key="choice.code"
              class="amount"
              :class="{ chosen: choice.chosen, shut: choice.hindrances.length }"
            >
              {{ choice.label }}
              <span v-if="choice.chosen" class="small word">chosen</span>
              <span v-else-if="choice.hindrances.length" class="small word">not open</span>
              <span v-else-if="least(election) === choice.code" class="small word best">costs least</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(figure, index) in election.choices[0]!.figures" :key="figure.label">
            <th scope="row">{{ figure.label }}</th>
            <td
              v-for="choice in election.choices"
              :key="choice.code"
              class="amount"
              :class="{ chosen: choice.chosen, shut: choice.hindrances.length }"
            >
              {{ amount(choice.figures[index]!.amount) }}
              <span v-if="choice.figures[index]!.movement !== '0'" class="small secondary move">{{
                signed(choice.figures[index]!.movement)
              }}</span>
            </td>
          </tr>
          <tr v-if="!store.locked && !election.bound">
            <th></th>
            <td v-for="choice in election.choices" :key="choice.code" class="amount">
              <button
                v-if="!choice.chosen && !choice.hindrances.length"
                class="link"
                @click="choose(election.line, choice.code)"
              >
                Choose
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <template v-for="choice in election.choices" :key="choice.code">
        <p v-for="why in choice.hindrances" :key="why" class="small secondary why">{{ choice.label }}: {{ why }}</p>
      </template>
    </div>
    <template v-if="view?.nextIncome.length && income">
      <div class="rule-head next-head">
        <h2>What the next {{ amount(income.step) }} of income costs</h2>
        <select v-if="view.nextIncome.length > 1" v-model.number="shownIncome" aria-label="Income on">
          <option v-for="(next, index) in view.nextIncome" :key="next.line" :value="index">{{ next.label }}</option>
        </select>
        <span v-else class="small secondary">{{ income.label }}</span>
      </div>
      <p class="now">
        At present: <strong data-next-cost>{{ amount(income.points[0]!.cost) || '0' }}</strong>
      </p>
      <figure
        class="chart"
        :aria-label="`Cost of a further ${amount(income.step)} on ${income.label}, from now to ${amount(income.points.at(-1)!.more)} more`"
      >
        <span
          v-for="point in income.points"
          :key="point.more"
          class="bar"
          :style="{ height: `${Math.max(1, (Math.max(0, Number(point.cost)) / tallest) * 84)}px` }"
          :title="`${amount(point.more) || '0'} more: ${amount(point.cost) || '0'}`"
        ></span>
      </figure>
      <p class="axis small faint">
        <span>now</span><span>{{ amount(income.points.at(-1)!.more) }} more</span>
      </p>
    </template>
  </section>
</template>

<style scoped>
.election {
  margin-bottom: 24px;
}
.binds,
.why {
  margin: 6px 0;
}
thead th {
  vertical-align: bottom;
  white-space: normal;
}
.word {
  display: block;
  font-weight: 400;
}
.best {
  color: var(--verdigris);
}
.chosen {
  background: var(--verdigris-wash);
}
.shut {
  color: var(--faint);
}
.move {
  display: block;
  line-height: 1.1;
}
tbody th {
  text-align: left;
  font-weight: 400;
}
tbody tr:nth-last-child(2) td,
tbody tr:nth-last-child(2) th {
  font-weight: 600;
  border-top: 1px solid var(--ink);
}
.next-head select {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 13px;
}
.now {
  margin: 8px 0;
}
.chart {
  display: flex;
  align-items: flex-end;
  gap: 2px;
  height: 88px;
  margin: 0;
  border-bottom: 1px solid var(--ink);
}
.bar {
  flex: 1;
  background: var(--verdigris);
  opacity: 0.75;
}
.axis {
  display: flex;
  justify-content: space-between;
  margin: 2px 0 0;
}
</style>
