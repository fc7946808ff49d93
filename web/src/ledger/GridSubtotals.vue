<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { amount, fromCents, lineText, toCents } from '../shared/format'
import { placeKey, type Line, type ReturnStore, type Section } from '../return/returnStore'

/** Subtotals of a grid by any column that names something: a code, a payer. */
const props = defineProps<{ section: Section }>()
const store = inject<ReturnStore>('return')!
const choices = computed(() =>
  props.section.lines.filter((l) => !l.computed && ['choice', 'text', 'identifier', 'answer'].includes(l.kind)),
)
const open = ref(false)
const by = ref(choices.value.find((l) => l.kind === 'choice')?.key ?? choices.value[0]?.key ?? '')
const sums = computed(() => props.section.lines.filter((l) => l.kind === 'money'))
const text = (line: Line, row: string) => store.values.get(placeKey(line.key, row))?.value ?? ''

const groups = computed(() => {
  const line = props.section.lines.find((l) => l.key === by.value)
  if (!open.value || !line) return []
  const found = new Map<string, { count: number; cents: bigint[] }>()
  for (const row of store.rowsOf(props.section.table!.key)) {
    const name = text(line, row)
    const group = found.get(name) ?? { count: 0, cents: sums.value.map(() => 0n) }
    group.count++
    sums.value.forEach((sum, index) => (group.cents[index]! += toCents(text(sum, row) || '0')))
    found.set(name, group)
  }
  return [...found]
    .map(([name, group]) => ({
      name: lineText(line, name) || 'blank',
      ...group,
    }))
    .sort((a, b) => a.name.localeCompare(b.name))
})
const used = computed(() => sums.value.map((_, index) => groups.value.some((g) => g.cents[index] !== 0n)))
</script>

<template>
  <div v-if="choices.length" class="subtotals">
    <button type="button" class="link" :aria-expanded="open" @click="open = !open">Subtotals</button>
    <label v-if="open" class="secondary"
      >by
      <select v-model="by" aria-label="Subtotals by">
        <option v-for="line in choices" :key="line.key" :value="line.key">{{ line.label }}</option>
      </select></label
    >
    <table v-if="open" class="plain">
      <thead>
        <tr>
          <th></th>
          <th class="amount">Rows</th>
          <template v-for="(sum, index) in sums" :key="sum.key"
            ><th v-if="used[index]" class="amount">{{ sum.label }}</th></template
          >
        </tr>
      </thead>
      <tbody>
        <tr v-for="group in groups" :key="group.name">
          <td>{{ group.name }}</td>
          <td class="amount">{{ group.count }}</td>
          <template v-for="(cents, index) in group.cents" :key="index"
            ><td v-if="used[index]" class="amount">{{ amount(fromCents(cents)) }}</td></template
          >
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.subtotals {
  margin: 8px 0;
}
label {
  margin-left: 14px;
}
select {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
</style>
