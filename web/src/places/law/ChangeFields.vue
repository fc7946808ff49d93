<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { replaced, withRange } from './scenario'

/** What a figure of the law is to say: a value, or the ranges of a table. */
const props = defineProps<{ figure: Schemas['LawFigureView'] | undefined; label: string }>()
const change = defineModel<Schemas['LawChangeTyped']>({ required: true })

function range(at: number, typed: Partial<Schemas['LawRangeTyped']> | null) {
  const there = change.value.ranges![at]!
  change.value = { ...change.value, ranges: replaced(change.value.ranges!, at, typed && { ...there, ...typed }) }
}
const typed = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <div v-if="!change.ranges" class="fields row">
    <span class="small secondary">now {{ figure?.value }}</span>
    <input
      :value="change.value"
      :aria-label="props.label"
      class="amount"
      @change="change = { ...change, value: typed($event) }"
    />
  </div>
  <template v-else>
    <table class="plain small fields">
      <thead>
        <tr>
          <th>Up to</th>
          <th class="amount">Value</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(there, at) in change.ranges" :key="at">
          <td>
            <input
              v-if="at < change.ranges.length - 1"
              :value="there.upTo"
              :aria-label="`Upper edge of range ${at + 1}`"
              @change="range(at, { upTo: typed($event) })"
            />
            <span v-else class="secondary">above</span>
          </td>
          <td class="amount">
            <input
              :value="there.value"
              :aria-label="`Value of range ${at + 1}`"
              class="amount short"
              @change="range(at, { value: typed($event) })"
            />
          </td>
          <td>
            <button
              v-if="at < change.ranges.length - 1"
              type="button"
              class="link"
              :aria-label="`Remove range ${at + 1}`"
              @click="range(at, null)"
            >
              &times;
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button type="button" class="link small add" @click="change = withRange(change)">Add range</button>
  </template>
</template>

<style scoped>
.row {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 10px;
}
.fields input {
  width: 110px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.fields .short {
  width: 70px;
}
.add {
  justify-self: start;
}
</style>
