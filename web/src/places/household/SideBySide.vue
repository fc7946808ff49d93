<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { amount, given } from '../../shared/format'

/** The returns of a household beside each other; each figure leads to its line. */
defineProps<{ view: Schemas['HouseholdView'] }>()
const lineOf = (member: Schemas['HouseholdMemberView'], figure: Schemas['HouseholdFigureView']) =>
  `/returns/${member.returnId}/fill/${figure.form}?line=${figure.line}`
</script>

<template>
  <table class="plain side" aria-label="Returns side by side">
    <thead>
      <tr>
        <th></th>
        <th v-for="member in view.members" :key="member.name" class="amount">
          <router-link v-if="member.clientId" :to="`/clients/${member.clientId}`">{{ given(member.name) }}</router-link>
          <template v-else>{{ given(member.name) }}</template>
          <span v-if="member.about" class="small about">{{ member.about }}</span>
        </th>
        <th class="amount">Household</th>
      </tr>
    </thead>
    <tbody>
      <tr>
        <td>Return</td>
        <td v-for="member in view.members" :key="member.name" class="amount">
          <router-link v-if="member.returnId" :to="`/returns/${member.returnId}/fill`">{{ member.stage }}</router-link>
          <span v-else class="secondary">{{ member.stage }}</span>
        </td>
        <td></td>
      </tr>
      <tr v-for="(figure, at) in view.figures" :key="figure.line" :class="{ balance: at === view.figures.length - 1 }">
        <td>{{ figure.label }}</td>
        <td v-for="member in view.members" :key="member.name" class="amount">
          <router-link v-if="member.returnId" :to="lineOf(member, figure)" class="plain-figure">{{
            amount(member.figures[at] ?? '0')
          }}</router-link>
          <span v-else-if="member.figures[at]">{{ amount(member.figures[at]) }}</span>
          <span v-else class="faint">–</span>
        </td>
        <td class="amount">{{ amount(figure.total) }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.side {
  width: 100%;
  margin-bottom: 26px;
}
.side th .about {
  margin-left: 5px;
  color: var(--secondary);
  font-weight: 400;
}
.plain-figure {
  color: var(--ink);
  font-weight: 400;
}
.balance td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
}
.balance .plain-figure {
  font-weight: 600;
}
</style>
